package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Level;
import ebb.core.departure.Eligibility.Candidate;
import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension.Reason;
import java.time.LocalDate;
import java.util.Optional;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class EligibilityTest {
  private static final LocalDate TODAY = LocalDate.of(2026, 11, 29);
  private static final int DAYS = 30;
  private static final Hold HOLD = new Hold(1, new PersonId(1), "audit", "ida", null);

  @Test
  public void whatIsOffForLongEnoughAndKeptByNobodyMayGo() {
    assertThat(Eligibility.against(off(Stage.PRESENT, Set.of(Reason.DORMANT)), DAYS, TODAY))
        .isEmpty();
    assertThat(Eligibility.against(off(Stage.DEPARTED, Set.of()), DAYS, TODAY)).isEmpty();
  }

  @DataProvider
  public Object[][] against() {
    var off = off(Stage.PRESENT, Set.of(Reason.DORMANT));
    return new Object[][] {
      {with(off, Level.ACTIVE, off.desired(), off.offSince()), "It is active, not suspended"},
      {with(off, Level.GONE, off.desired(), off.offSince()), "It is gone"},
      {with(off, off.level(), Optional.of(Level.ACTIVE), off.offSince()), "is to be in use"},
      {with(off, off.level(), Optional.of(Level.PREPARED), off.offSince()), "is to be in use"},
      {with(off, off.level(), off.desired(), null), "is not known here"},
      {with(off, off.level(), off.desired(), TODAY.minusDays(29)), "from 2026-11-30 on"},
      {off(Stage.AWAY, Set.of()), "on leave"},
      {off(Stage.EXPECTED, Set.of()), "yet to come"},
      {off(Stage.PRESENT, Set.of(Reason.LEAVE)), "may come back"},
      {off(Stage.PRESENT, Set.of(Reason.SEASON)), "may come back"},
      {off(Stage.PRESENT, Set.of(Reason.DORMANT, Reason.INQUIRY)), "may come back"},
      {kept(Optional.of(HOLD), false, null, null, null), "A hold set by ida"},
      {kept(Optional.empty(), true, null, null, null), "technical"},
      {kept(Optional.empty(), false, 7L, null, null), "Departure 7"},
      {kept(Optional.empty(), false, null, "shared", null), "left as it is: shared"},
      {kept(Optional.empty(), false, null, null, "it was stripped"), "It stays: it was stripped"},
    };
  }

  @Test(dataProvider = "against")
  public void theRestIsRefusedEachWithItsReason(Candidate account, String why) {
    assertThat(Eligibility.against(account, DAYS, TODAY).orElseThrow()).contains(why);
  }

  @Test
  public void whyAnOwnerIsKeptOutIsNotSaid() {
    assertThat(Eligibility.against(off(Stage.PRESENT, Set.of(Reason.INQUIRY)), DAYS, TODAY))
        .hasValueSatisfying(why -> assertThat(why).doesNotContain("inquiry"));
  }

  private static Candidate off(Stage stage, Set<Reason> reasons) {
    return new Candidate(
        Level.SUSPENDED,
        Optional.of(Level.SUSPENDED),
        TODAY.minusDays(DAYS),
        stage,
        reasons,
        Optional.empty(),
        false,
        null,
        null,
        null);
  }

  private static Candidate with(
      Candidate one, Level level, Optional<Level> desired, LocalDate since) {
    return new Candidate(
        level,
        desired,
        since,
        one.stage(),
        one.suspendedFor(),
        one.hold(),
        one.technical(),
        one.underWay(),
        one.leftAlone(),
        one.stays());
  }

  private static Candidate kept(
      Optional<Hold> hold, boolean technical, Long underWay, String leftAlone, String stays) {
    return new Candidate(
        Level.SUSPENDED,
        Optional.empty(),
        TODAY.minusDays(DAYS),
        Stage.PRESENT,
        Set.of(),
        hold,
        technical,
        underWay,
        leftAlone,
        stays);
  }
}
