package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.application.Level;
import ebb.core.application.Ownership.Item;
import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.Gate.State;
import ebb.core.departure.Removal.Ending;
import ebb.core.handover.Sheet;
import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.testng.annotations.Test;

public class GatesTest {
  private static final LocalDate TODAY = LocalDate.parse("2027-03-01");
  private static final Sheet FILES = Sheet.of(List.of(item("files", true)));
  private static final Departure DEPARTURE =
      Departure.begun(
          1,
          new PersonId(1),
          Departure.Kind.DEPARTURE,
          TODAY.minusDays(3),
          TODAY,
          false,
          new PersonId(2),
          "last day",
          Instant.EPOCH);
  private static final Hold HOLD = new Hold(1, new PersonId(1), "audit", "ida", null);

  @Test
  public void allGatesAreOpenAtTheEndOfAnOrdinaryDeparture() {
    assertThat(gates(ready(), Optional.empty())).allMatch(Gate::isOpen);
  }

  @Test
  public void aHoldKeepsEverythingAndIsNeverWaived() {
    var account =
        with(ready(), Map.of("hold", "never mind", "suspended", "never mind"), Level.ACTIVE);

    var gates = gates(account, Optional.of(HOLD));

    assertThat(state(gates, "hold")).isEqualTo(State.SHUT);
    assertThat(state(gates, "suspended")).isEqualTo(State.SHUT);
  }

  @Test
  public void whatIsNotKnownStaysShutUntilWaived() {
    var silent = silent(Map.of());

    assertThat(state(gates(silent, Optional.empty()), "stock")).isEqualTo(State.NOT_KNOWN);
    assertThat(state(gates(silent, Optional.empty()), "references")).isEqualTo(State.NOT_KNOWN);
    var waived = silent(Map.of("stock", "looked there", "references", "looked there"));
    assertThat(gates(waived, Optional.empty())).allMatch(Gate::isOpen);
  }

  @Test
  public void theRestOfAKindIsHandedOverWhereSomeOfItCannotBe() {
    var sheet = Sheet.of(List.of(item("files", true), item("files", false)));
    var waived = Map.of("uncovered", "it is in the archive");

    var before = gates(owning(sheet, Handover.NONE, List.of(), waived), Optional.empty());

    assertThat(state(before, "uncovered")).isEqualTo(State.WAIVED);
    assertThat(state(before, "handover"))
        .as("waiving one loses not the other")
        .isEqualTo(State.SHUT);
  }

  @Test
  public void aKindThatCannotBeHandedOverStaysShutUntilWaived() {
    var sheet = Sheet.of(List.of(item("files", true), item("mail", false)));

    assertThat(
            state(
                gates(owning(sheet, Handover.PROVEN, List.of(), Map.of()), Optional.empty()),
                "uncovered"))
        .isEqualTo(State.SHUT);
    assertThat(
            state(
                gates(
                    owning(sheet, Handover.PROVEN, List.of(), Map.of("uncovered", "kept on paper")),
                    Optional.empty()),
                "uncovered"))
        .isEqualTo(State.WAIVED);
  }

  @Test
  public void whoOwnedMuchIsApprovedByASecondPersonAfterTheHandover() {
    var much = new Removal(Ending.DELETE, 0, 0, 0);

    var before = removed(owning(FILES, Handover.RUNNING, List.of(), Map.of()), much);
    assertThat(gate(before, "approval").needsSomebody()).isFalse();

    var after = removed(owning(FILES, Handover.PROVEN, List.of(), Map.of()), much);
    assertThat(gate(after, "approval").needsSomebody()).isTrue();
    assertThat(gate(after, "approval").canBeWaived()).isFalse();

    var approved =
        removed(
            owning(FILES, Handover.PROVEN, List.of(), Map.of("approval", "ines: saw the sheet")),
            much);
    assertThat(gates(approved, Optional.empty())).allMatch(Gate::isOpen);
    assertThat(approved.isDecidedBy("ines")).isTrue();
    assertThat(approved.isDecidedBy("ine")).isFalse();
  }

  @Test
  public void whereRemovalsAreRefusedOneAfterTheOtherTheRestWaits() {
    var account = owning(FILES, Handover.PROVEN, List.of(), Map.of());

    assertThat(gates(removed(account, refusing(2)), Optional.empty())).allMatch(Gate::isOpen);
    var shut = gate(removed(account, refusing(3)), "refusals");
    assertThat(shut.isOpen()).isFalse();
    assertThat(shut.needsSomebody()).as("those that were refused do").isFalse();
    assertThat(shut.why()).contains("refused the last 3 removals");
    assertThat(shut.canBeWaived()).isTrue();
  }

  private static Removal refusing(int removals) {
    return new Removal(Ending.DELETE, 0, Long.MAX_VALUE, removals);
  }

  private static Gate gate(AccountCase account, String name) {
    return gates(account, Optional.empty()).stream()
        .filter(gate -> gate.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private static AccountCase removed(AccountCase one, Removal removal) {
    return new AccountCase(
        one.application(),
        one.level(),
        one.ownsNothing(),
        one.canTellOwnership(),
        one.canTellReferences(),
        one.sheet(),
        one.references(),
        one.recipient(),
        one.handover(),
        one.provenAt(),
        one.problem(),
        one.waivers(),
        one.deleteFrom(),
        one.waysIn(),
        one.stays(),
        removal,
        one.restorableUntil());
  }

  @Test
  public void aShutGateSaysWhyAndWhatToDo() {
    var gates =
        gates(
            owning(
                FILES,
                Handover.FAILED,
                List.of(new Reference("manager", "manager of Ada")),
                Map.of()),
            Optional.of(HOLD));

    assertThat(gates)
        .filteredOn(gate -> !gate.isOpen())
        .hasSize(3)
        .allSatisfy(
            gate -> {
              assertThat(gate.why()).isNotBlank();
              assertThat(gate.remedy()).isNotBlank();
            });
  }

  /** Nothing opens all gates but a case in which each of them holds by itself. */
  @Test
  public void noCombinationOfFactsSkipsAGate() {
    var random = Chance.random(11);
    int opened = 0;
    for (int run = 0; run < 5_000; run++) {
      var level = random.nextBoolean() ? Level.SUSPENDED : Level.ACTIVE;
      var handover = Handover.values()[random.nextInt(4)];
      var sheet = random.nextInt(3) == 0 ? null : FILES;
      var references =
          random.nextBoolean()
              ? List.<Reference>of()
              : List.of(new Reference("manager", "manager of Ada"));
      var recipient = random.nextBoolean() ? "Head" : null;
      var from = TODAY.plusDays(random.nextInt(3) - 1);
      var hold = random.nextBoolean() ? Optional.of(HOLD) : Optional.<Hold>empty();
      var account =
          new AccountCase(
              "app",
              level,
              null,
              true,
              true,
              sheet,
              references,
              recipient,
              handover,
              null,
              problem(),
              Map.of(),
              from,
              "off",
              false,
              Removal.AT_ONCE,
              null);

      var open = gates(account, hold).stream().allMatch(Gate::isOpen);

      assertThat(open)
          .as("run %d", run)
          .isEqualTo(
              hold.isEmpty()
                  && level == Level.SUSPENDED
                  && sheet != null
                  && recipient != null
                  && handover == Handover.PROVEN
                  && references.isEmpty()
                  && !from.isAfter(TODAY));
      opened += open ? 1 : 0;
    }
    assertThat(opened).as("cases in which all gates are open").isGreaterThan(5);
  }

  private static List<Gate> gates(AccountCase account, Optional<Hold> hold) {
    return Gates.of(DEPARTURE, account, hold, TODAY);
  }

  private static State state(List<Gate> gates, String name) {
    return gates.stream()
        .filter(gate -> gate.name().equals(name))
        .findFirst()
        .orElseThrow()
        .state();
  }

  private static AccountCase ready() {
    return owning(FILES, Handover.PROVEN, List.of(), Map.of());
  }

  private static AccountCase owning(
      Sheet sheet, Handover handover, List<Reference> references, Map<String, String> waivers) {
    return new AccountCase(
        "app",
        Level.SUSPENDED,
        null,
        true,
        true,
        sheet,
        references,
        "Head",
        handover,
        Instant.EPOCH,
        problem(),
        waivers,
        TODAY,
        "off",
        false,
        Removal.AT_ONCE,
        null);
  }

  private static AccountCase silent(Map<String, String> waivers) {
    return new AccountCase(
        "app",
        Level.SUSPENDED,
        null,
        false,
        false,
        null,
        null,
        null,
        Handover.NONE,
        null,
        null,
        waivers,
        TODAY,
        "off",
        false,
        Removal.AT_ONCE,
        null);
  }

  private static AccountCase with(AccountCase account, Map<String, String> waivers, Level level) {
    return new AccountCase(
        "app",
        level,
        null,
        true,
        true,
        account.sheet(),
        account.references(),
        "Head",
        account.handover(),
        null,
        null,
        waivers,
        TODAY,
        "off",
        false,
        Removal.AT_ONCE,
        null);
  }

  private static Problem problem() {
    return new Problem(
        "handover-left-behind", "One item stayed.", "why", "retry the handover", null);
  }

  private static Item item(String kind, boolean transferable) {
    return new Item(kind + "-1", kind, "notes", 10, "aa", transferable);
  }
}
