package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.store.journal.Settled;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.testng.annotations.Test;

public class SettledTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");

  @Test
  public void whatFollowsWithoutAGapIsSettledAtOnce() {
    var settled = new Settled(NOW);

    settled.sealed(List.of(1L, 2L, 3L));

    assertThat(settled.upTo()).isEqualTo(3);
  }

  @Test
  public void aNumberThatIsMissingIsWaitedForAndNotForEver() {
    var settled = new Settled(NOW);
    settled.sealed(List.of(1L, 2L, 4L, 5L));
    assertThat(settled.upTo()).as("number 3 may still come").isEqualTo(2);
    settled.allSealed(5, NOW);
    assertThat(settled.upTo()).isEqualTo(2);
    assertThat(settled.isDue(NOW.plusSeconds(30))).isFalse();

    assertThat(settled.isDue(NOW.plusSeconds(61))).isTrue();
    settled.allSealed(5, NOW.plusSeconds(61));

    assertThat(settled.upTo()).as("it was given up").isEqualTo(5);
    settled.sealed(List.of(6L));
    assertThat(settled.upTo()).isEqualTo(6);
  }

  @Test
  public void aLateNumberClosesTheGap() {
    var settled = new Settled(NOW);
    settled.sealed(List.of(1L, 3L));

    settled.sealed(List.of(2L));

    assertThat(settled.upTo()).isEqualTo(3);
  }

  @Test
  public void onceInAWhileAllIsLookedAtAgain() {
    var settled = new Settled(NOW);
    settled.sealed(List.of(1L, 2L));

    settled.allSealed(2, NOW.plus(Duration.ofHours(2)));

    assertThat(settled.upTo()).isZero();
  }
}
