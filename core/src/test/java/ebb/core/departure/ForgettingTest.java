package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.departure.DepartureStep.State;
import java.time.LocalDate;
import java.util.List;
import org.testng.annotations.Test;

public class ForgettingTest {
  private static final LocalDate ENDED = LocalDate.parse("2027-03-01");
  private static final LocalDate DAY = ENDED.plusDays(730);

  @Test
  public void nothingIsForgottenBeforeItsDay() {
    var after = new Forgetting(730, ENDED, null, null);

    assertThat(after.isDue(DAY.minusDays(1))).isFalse();
    assertThat(after.step(DAY.minusDays(1)).state()).isEqualTo(State.AHEAD);
    assertThat(after.step(DAY.minusDays(1)).day()).isEqualTo(DAY);
    assertThat(after.isDue(DAY)).isTrue();
    assertThat(after.step(DAY).state()).isEqualTo(State.UNDER_WAY);
  }

  @Test
  public void aDepartureThatIsUnderWayHasNoDayForIt() {
    var under = new Forgetting(730, null, null, null);

    assertThat(under.isDue(LocalDate.MAX)).isFalse();
    assertThat(under.step(ENDED).day()).isNull();
    assertThat(under.step(ENDED).words()).startsWith("730 days after the end");
  }

  @Test
  public void whatKeepsItFromBeingDoneIsSaid() {
    var kept = new Forgetting(730, ENDED, null, "A hold is in force: an inquiry.");

    assertThat(kept.isDue(DAY)).isFalse();
    assertThat(kept.step(DAY).state()).isEqualTo(State.WAITS);
    assertThat(kept.step(DAY).words()).contains("an inquiry");
  }

  @Test
  public void itIsDoneOnce() {
    var done = new Forgetting(730, ENDED, DAY, null);

    assertThat(done.isDue(DAY.plusYears(1))).isFalse();
    assertThat(done.step(DAY.plusYears(1)).state()).isEqualTo(State.DONE);
    assertThat(done.step(DAY.plusYears(1)).day()).isEqualTo(DAY);
  }

  @Test
  public void whereTheKindIsNotKnownNobodyIsForgottenByTheRuleOfAnother() {
    var never = new Procedure(3, 30, false, null, null);
    var soon = new Procedure(3, 30, false, null, 30);
    var late = new Procedure(3, 30, false, null, 730);

    assertThat(Procedure.longestRemembered(List.of(soon, never, late))).isNull();
    assertThat(Procedure.longestRemembered(List.of(soon, late))).isEqualTo(730);
  }
}
