package ebb.core.operator;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.Test;

public class CallerTest {
  @Test
  public void anAdministratorMayDoEverything() {
    assertThat(caller(Role.ADMINISTRATOR, Reach.EVERYBODY).acts()).containsExactly(Act.values());
  }

  @Test
  public void anAuditorMayLookAndTouchesNothing() {
    assertThat(caller(Role.AUDITOR, Reach.EVERYBODY).acts())
        .containsExactlyInAnyOrder(
            Act.OWN, Act.SEE, Act.SEE_DISCREET, Act.EXPORT, Act.SEE_IMPORTS, Act.SEE_SETTINGS);
  }

  @Test
  public void theHelpdeskResetsPasswordsAndStopsPeopleAndNeitherExportsNorEdits() {
    assertThat(caller(Role.HELPDESK, Reach.EVERYBODY).acts())
        .containsExactlyInAnyOrder(Act.OWN, Act.SEE, Act.RESET, Act.EMERGENCY_STOP);
  }

  @Test
  public void aStewardReleasesButLetsNoStopPassAndLiftsNoHold() {
    var steward = caller(Role.STEWARD, Reach.EVERYBODY);
    assertThat(steward.acts()).contains(Act.RELEASE, Act.IMPORT, Act.SET_HOLD, Act.DEPARTURES);
    assertThat(steward.acts())
        .doesNotContain(
            Act.PASS_STOP,
            Act.APPROVE,
            Act.OPEN_CONTENTS,
            Act.LIFT_HOLD,
            Act.EDIT_SETTINGS,
            Act.OPERATORS);
  }

  @Test
  public void somebodyWhoAnswersForOneUnitIsKeptFromWhatTouchesEverybody() {
    var narrowed = caller(Role.ADMINISTRATOR, new Reach(Set.of("Deck"), Set.of()));
    assertThat(narrowed.may(Act.EDIT_PEOPLE)).isTrue();
    assertThat(narrowed.may(Act.IMPORT)).isFalse();
    assertThatThrownBy(() -> narrowed.require(Act.OPERATORS))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal -> {
              assertThat(refusal.kind()).isEqualTo(Refusal.Kind.FORBIDDEN);
              assertThat(refusal.problems().getFirst().why()).contains("Deck");
            });
  }

  /** Neither role includes the other: a token never adds to what its operator may. */
  @Test
  public void aTokenOfAnotherRoleLeavesOnlyWhatBothInclude() {
    var helpdesk = new Caller("ines", Role.HELPDESK, Role.AUDITOR, Reach.EVERYBODY, null, true);
    assertThat(helpdesk.acts()).containsExactlyInAnyOrder(Act.OWN, Act.SEE);
    for (var role : Role.values()) {
      for (var atMost : Role.values()) {
        assertThat(caller(role, Reach.EVERYBODY).acts())
            .containsAll(new Caller("ines", role, atMost, Reach.EVERYBODY, null, true).acts());
      }
    }
  }

  @Test
  public void discreetCasesAreOpenedByNameAndNeverToTheHelpdesk() {
    for (var role : Role.values()) {
      var unnamed = new Caller("ines", role, null, Reach.EVERYBODY, null, false);
      assertThat(unnamed.may(Act.SEE_DISCREET)).as(role.word()).isFalse();
      assertThatThrownBy(() -> unnamed.require(Act.SEE_DISCREET))
          .isInstanceOfSatisfying(
              Refusal.class,
              refusal ->
                  assertThat(refusal.problems().getFirst().code()).isEqualTo("discreet-case"));
      assertThat(caller(role, Reach.EVERYBODY).may(Act.SEE_DISCREET))
          .as(role.word())
          .isEqualTo(role != Role.HELPDESK);
    }
  }

  @Test
  public void aRefusalNamesWhoMay() {
    assertThatThrownBy(() -> caller(Role.STEWARD, Reach.EVERYBODY).require(Act.LIFT_HOLD))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal ->
                assertThat(refusal.problems().getFirst().remedy()).contains("administrator"));
  }

  @Test
  public void aReachCoversThoseInItsUnitsAndOfItsKinds() {
    var reach = new Reach(Set.of("Deck", "Engine"), Set.of("employee"));
    assertThat(reach.covers(person("Deck", "employee"))).isTrue();
    assertThat(reach.covers(person("Deck", "contractor"))).isFalse();
    assertThat(reach.covers(person("Office", "employee"))).isFalse();
    assertThat(Reach.EVERYBODY.covers(person("Office", "contractor"))).isTrue();
  }

  @Test
  public void somebodyWithoutAUnitIsInNobodysNarrowedReach() {
    var nobody = new Person(new PersonId(1), new TreeMap<>());
    assertThat(new Reach(Set.of("Deck"), Set.of()).covers(nobody)).isFalse();
  }

  private static Caller caller(Role role, Reach reach) {
    return new Caller("ines", role, null, reach, null, true);
  }

  private static Person person(String unit, String kind) {
    var held = new TreeMap<String, Held>();
    Map.of("department", unit, "userType", kind)
        .forEach((name, value) -> held.put(name, new Held(value, "hr", Instant.EPOCH)));
    return new Person(new PersonId(1), held);
  }
}
