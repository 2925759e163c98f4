package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Level;
import ebb.core.application.Ownership.Item;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.DepartureStep.State;
import ebb.core.handover.Sheet;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.testng.annotations.Test;

public class DepartureStepsTest {
  private static final LocalDate LAST_DAY = LocalDate.parse("2027-03-01");
  private static final Procedure ASKING = new Procedure(3, 30, true, null, null);

  @Test
  public void onTheDayAfterAllThatCanBeDoneIsDoneAndTheRestLiesAhead() {
    var steps = steps(departure(ASKING), LAST_DAY.plusDays(1), owning("Head", Handover.NONE));

    assertThat(steps)
        .containsEntry("last day", State.DONE)
        .containsEntry("off", State.DONE)
        .containsEntry("ways in", State.DONE)
        .containsEntry("return", State.WAITS)
        .containsEntry("stock", State.DONE)
        .containsEntry("handover", State.AHEAD)
        .containsEntry("references", State.DONE)
        .containsEntry("waiting", State.AHEAD)
        .containsEntry("removal", State.AHEAD);
  }

  @Test
  public void aHandoverWithoutARecipientWaitsForSomebody() {
    assertThat(steps(departure(ASKING), LAST_DAY.plusDays(1), owning(null, Handover.NONE)))
        .containsEntry("handover", State.WAITS);
    assertThat(steps(departure(ASKING), LAST_DAY.plusDays(4), owning("Head", Handover.RUNNING)))
        .containsEntry("handover", State.UNDER_WAY);
  }

  @Test
  public void atTheEndEveryStepIsDone() {
    var over = departure(ASKING).notReturning("ines says so");

    assertThat(
            steps(
                over,
                LAST_DAY.plusDays(40),
                account(Level.GONE, "Head", Handover.PROVEN, false),
                account(Level.SUSPENDED, "Head", Handover.PROVEN, true)))
        .allSatisfy((name, state) -> assertThat(state).as(name).isEqualTo(State.DONE));
  }

  @Test
  public void whatKeepsItFromItsEndIsSaidThere() {
    var paused = departure(ASKING).paused("by ines: a court may ask");

    assertThat(
            DepartureSteps.of(
                    paused,
                    List.of(part(paused, owning("Head", Handover.PROVEN), LAST_DAY.plusDays(50))),
                    LAST_DAY.plusDays(50))
                .getLast()
                .words())
        .contains("a court may ask");
  }

  @Test
  public void aPauseAndTheQuestionOfReturnKeepEverythingAndAreNotWaivedForAnAccount() {
    var waived = Map.of("paused", "in a hurry", "return", "in a hurry");
    var account = account(Level.SUSPENDED, "Head", Handover.PROVEN, false, waived);
    var departure = departure(ASKING).paused("by ines: a court may ask");

    var shut =
        Gates.of(departure, account, Optional.empty(), LAST_DAY.plusDays(50)).stream()
            .filter(gate -> !gate.isOpen())
            .map(Gate::name)
            .toList();

    assertThat(shut).containsExactly("paused", "return");
  }

  @Test
  public void anAutomaticReplyIsAStepWhereThereIsOne() {
    var departure = departure(ASKING);
    var account = owning("Head", Handover.NONE);
    var gates = part(departure, account, LAST_DAY.plusDays(1)).gates();

    assertThat(step(departure, new DepartureSteps.Part(account, gates, null), "reply")).isEmpty();
    assertThat(
            step(
                departure,
                new DepartureSteps.Part(
                    account,
                    gates,
                    new AutomaticReply(AutomaticReply.State.SET, LAST_DAY.plusDays(90), null)),
                "reply"))
        .hasValueSatisfying(
            step -> {
              assertThat(step.state()).isEqualTo(State.DONE);
              assertThat(step.words()).contains("until 2027-05-30");
            });
    assertThat(
            step(
                departure,
                new DepartureSteps.Part(
                    account,
                    gates,
                    new AutomaticReply(
                        AutomaticReply.State.WANTED,
                        LAST_DAY.plusDays(90),
                        new Problem("c", "It is away.", "why", "remedy", null))),
                "reply"))
        .hasValueSatisfying(step -> assertThat(step.words()).contains("It is away."));
  }

  @Test
  public void aSecondPersonIsAheadUntilThereIsSomethingToLookAt() {
    assertThat(approval(Handover.RUNNING).state()).isEqualTo(State.AHEAD);
    assertThat(approval(Handover.PROVEN).state()).isEqualTo(State.WAITS);
  }

  private static DepartureStep approval(Handover handover) {
    var departure = departure(ASKING);
    var one = owning("Head", handover);
    var much =
        new AccountCase(
            one.application(),
            one.level(),
            null,
            true,
            true,
            one.sheet(),
            one.references(),
            one.recipient(),
            handover,
            one.provenAt(),
            null,
            Map.of(),
            one.deleteFrom(),
            one.waysIn(),
            false,
            new Removal(Removal.Ending.DELETE, 0, 0, 0),
            null);
    return step(departure, part(departure, much, LAST_DAY.plusDays(5)), "approval").orElseThrow();
  }

  private static Optional<DepartureStep> step(
      Departure departure, DepartureSteps.Part part, String name) {
    return DepartureSteps.of(departure, List.of(part), LAST_DAY.plusDays(1)).stream()
        .filter(step -> step.name().equals(name))
        .findFirst();
  }

  private static Map<String, State> steps(
      Departure departure, LocalDate today, AccountCase... accounts) {
    var parts = Arrays.stream(accounts).map(account -> part(departure, account, today)).toList();
    return DepartureSteps.of(departure, parts, today).stream()
        .collect(Collectors.toMap(DepartureStep::name, DepartureStep::state));
  }

  private static DepartureSteps.Part part(
      Departure departure, AccountCase account, LocalDate today) {
    return new DepartureSteps.Part(account, Gates.of(departure, account, Optional.empty(), today));
  }

  private static Departure departure(Procedure procedure) {
    return Departure.begun(
        1,
        new PersonId(1),
        Departure.Kind.DEPARTURE,
        LAST_DAY,
        LAST_DAY.plusDays(procedure.handOverDays()),
        procedure.asksReturn(),
        new PersonId(2),
        "last day 2027-03-01",
        Instant.EPOCH);
  }

  private static AccountCase owning(String recipient, Handover handover) {
    return account(Level.SUSPENDED, recipient, handover, false);
  }

  private static AccountCase account(
      Level level, String recipient, Handover handover, boolean stays) {
    return account(level, recipient, handover, stays, Map.of());
  }

  private static AccountCase account(
      Level level,
      String recipient,
      Handover handover,
      boolean stays,
      Map<String, String> waivers) {
    return new AccountCase(
        "house",
        level,
        null,
        true,
        true,
        Sheet.of(List.of(new Item("1", "files", "notes", 10, "aa", true))),
        List.of(),
        recipient,
        handover,
        handover == Handover.PROVEN ? Instant.EPOCH : null,
        null,
        waivers,
        LAST_DAY.plusDays(30),
        "off",
        stays,
        Removal.AT_ONCE,
        null);
  }
}
