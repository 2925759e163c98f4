package ebb.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Capabilities;
import ebb.core.application.Equality;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Part;
import ebb.core.application.Value;
import ebb.core.compare.Compare.Reference;
import ebb.core.person.PersonId;
import ebb.core.rule.DesiredAccount;
import ebb.core.rule.Grounded;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class CompareTest {
  private static final Capabilities CAPABILITIES =
      new Capabilities(
          Set.of(),
          Set.of(),
          Map.of("title", Equality.IGNORE_CASE_AND_SPACE, "phone", Equality.TELEPHONE),
          Set.of(Part.GROUPS),
          0,
          Duration.ZERO);

  @Test
  public void equalValuesAreWhatTheApplicationTakesForEqual() {
    var desired =
        wanted(
            Map.of(
                "title",
                Value.of("Head of Deck"),
                "phone",
                Value.of("+47 555"),
                "mail",
                Value.of("a", "b")));

    assertThat(
            between(
                desired,
                held(
                    Map.of(
                        "title",
                        List.of("HEAD  of deck"),
                        "phone",
                        List.of("+47-555"),
                        "mail",
                        List.of("b", "a")))))
        .isEmpty();
    assertThat(
            between(
                desired,
                held(
                    Map.of(
                        "title",
                        List.of("Head of deck"),
                        "phone",
                        List.of("+47555"),
                        "mail",
                        List.of("A", "b")))))
        .singleElement()
        .isInstanceOfSatisfying(
            Difference.Differing.class,
            differing -> assertThat(differing.edits()).containsOnlyKeys("mail"));
  }

  @Test
  public void saysOnlyWhatDiffersWithBothValues() {
    var differences =
        between(
            wanted(Map.of("title", Value.of("Mate"), "city", Value.of("Skerrow"))),
            held(Map.of("title", List.of("Admiral"), "city", List.of("Skerrow"))));

    assertThat(differences)
        .containsExactly(
            new Difference.Differing(
                new TreeMap<>(
                    Map.of("title", new Edit(List.of("Admiral"), Value.of("Mate"), "rule")))));
  }

  @Test
  public void aReferenceIsComparedByTheAccountItLeadsTo() {
    var boss = new PersonId(9);
    var desired = wanted(Map.of("manager", Value.accountOf(boss)));

    assertThat(
            compare(new Reference.Known("m-1"))
                .differences(Optional.of(desired), held(Map.of("manager", List.of("m-1")))))
        .isEmpty();
    assertThat(
            compare(new Reference.Coming())
                .differences(Optional.of(desired), held(Map.of("manager", List.of("m-1")))))
        .hasSize(1);
    assertThat(compare(new Reference.None()).differences(Optional.of(desired), held(Map.of())))
        .isEmpty();
  }

  @Test
  public void anAccountNobodyIsEntitledToIsClosedOnceAndNeverDeleted() {
    assertThat(compare(new Reference.None()).differences(Optional.empty(), held(Map.of())))
        .containsExactly(new Difference.NotEntitled(Level.ACTIVE));
    assertThat(
            compare(new Reference.None())
                .differences(Optional.empty(), Optional.of(account(Map.of(), false, true))))
        .isEmpty();
  }

  @Test
  public void anAccountThatIsBeingClosedIsSwitchedOffAgainWhoeverSwitchedItOn() {
    assertThat(
            compare(new Reference.None())
                .differences(Optional.empty(), Optional.of(account(Map.of(), true, true))))
        .containsExactly(new Difference.OffLevel(Level.ACTIVE, Level.SUSPENDED, "closing"));
  }

  @Test
  public void leavesGroupsAloneThatEbbDidNotGive() {
    var account = account(Map.of(), true, false);

    assertThat(
            compare(new Reference.None())
                .differences(Optional.of(wanted(Map.of())), Optional.of(account)))
        .containsExactly(new Difference.InGroup("given"));
  }

  @Test
  public void suspendingTouchesNoValuesAndComesOnce() {
    var suspended =
        new DesiredAccount(
            "app", Level.SUSPENDED, "departed", new TreeMap<>(), new TreeMap<>(), new TreeMap<>());

    assertThat(between(suspended, held(Map.of("title", List.of("Mate")))))
        .containsExactly(new Difference.OffLevel(Level.ACTIVE, Level.SUSPENDED, "departed"));
    assertThat(between(suspended, Optional.of(account(Map.of(), false, false)))).isEmpty();
    assertThat(between(suspended, Optional.empty())).isEmpty();
  }

  @Test
  public void seatsThatEbbGaveAreTakenBackAndOthersLeftAlone() {
    var desired = wanted(Map.of());
    desired.seats().put("standard", "rule");
    var observed =
        account(Map.of(), true, false).observed().in(new TreeSet<>(Set.of("extra", "found")));
    var held =
        new HeldAccount(
            1,
            "app",
            Level.ACTIVE,
            observed,
            new TreeMap<>(Map.of(HeldAccount.seat("extra"), "rule")),
            false,
            false,
            false);

    assertThat(withSeats().differences(Optional.of(desired), Optional.of(held)))
        .containsExactly(
            new Difference.WithoutSeat("standard", "rule"), new Difference.InSeat("extra"));
    assertThat(between(desired, Optional.of(held))).as("where there are no seats").isEmpty();
  }

  @Test
  public void aNewAccountTakesItsSeatAtOnce() {
    var desired = wanted(Map.of());
    desired.seats().put("standard", "rule");

    assertThat(withSeats().differences(Optional.of(desired), Optional.empty()))
        .contains(new Difference.WithoutSeat("standard", "rule"));
  }

  private static Compare withSeats() {
    return new Compare(
        CAPABILITIES.with(Set.of(Part.GROUPS, Part.SEATS)), _ -> new Reference.None());
  }

  private static List<Difference> between(DesiredAccount desired, Optional<HeldAccount> held) {
    return compare(new Reference.None()).differences(Optional.of(desired), held);
  }

  private static Compare compare(Reference reference) {
    return new Compare(CAPABILITIES, _ -> reference);
  }

  private static DesiredAccount wanted(Map<String, Value> values) {
    var grounded = new TreeMap<String, Grounded<Value>>();
    values.forEach((name, value) -> grounded.put(name, new Grounded<>(value, "rule")));
    return new DesiredAccount(
        "app", Level.ACTIVE, "rule", grounded, new TreeMap<>(), new TreeMap<>());
  }

  private static Optional<HeldAccount> held(Map<String, List<String>> values) {
    var account = account(values, true, false);
    return Optional.of(
        new HeldAccount(
            account.id(),
            "app",
            account.level(),
            account.observed(),
            new TreeMap<>(),
            false,
            false,
            false));
  }

  @Test
  public void anAccountLeftAloneMayDifferAndIsSuspendedAllTheSame() {
    var wanted = wanted(Map.of("title", Value.of("Mate")));
    var open = account(Map.of("title", List.of("Bosun")), true, false);
    var off = account(Map.of("title", List.of("Bosun")), false, false);

    assertThat(between(wanted, Optional.of(open))).isNotEmpty();
    assertThat(between(wanted, Optional.of(leftAlone(open)))).isEmpty();
    assertThat(between(wanted, Optional.of(leftAlone(off))))
        .singleElement()
        .isInstanceOf(Difference.OffLevel.class);
  }

  @Test
  public void whatWasStrippedStaysSoWhileItIsOffAndIsFilledForWhoeverComesBack() {
    var away = account(Map.of("title", List.of("former-7")), false, false);
    var stripped =
        new HeldAccount(
            away.id(), "app", away.level(), away.observed(), new TreeMap<>(), false, false, true);
    var back = wanted(Map.of("title", Value.of("Mate")));
    var off =
        new DesiredAccount(
            "app", Level.SUSPENDED, "rule", back.values(), new TreeMap<>(), new TreeMap<>());

    assertThat(between(off, Optional.of(away))).hasSize(1);
    assertThat(between(off, Optional.of(stripped))).isEmpty();
    assertThat(compare(new Reference.None()).differences(Optional.empty(), Optional.of(stripped)))
        .as("nobody has to be told that nothing gives it")
        .isEmpty();
    assertThat(between(back, Optional.of(stripped)))
        .hasAtLeastOneElementOfType(Difference.Differing.class)
        .hasAtLeastOneElementOfType(Difference.OffLevel.class);
  }

  private static HeldAccount leftAlone(HeldAccount account) {
    return new HeldAccount(
        account.id(),
        account.application(),
        account.level(),
        account.observed(),
        account.grounds(),
        account.closing(),
        true,
        false);
  }

  private static HeldAccount account(
      Map<String, List<String>> values, boolean usable, boolean closing) {
    var observed =
        new ObservedAccount(
            "a-1", "ebb-1", usable, new TreeMap<>(values), new TreeSet<>(Set.of("given", "found")));
    return new HeldAccount(
        1,
        "app",
        usable ? Level.ACTIVE : Level.SUSPENDED,
        observed,
        new TreeMap<>(Map.of("given", "grant 1")),
        closing,
        false,
        false);
  }
}
