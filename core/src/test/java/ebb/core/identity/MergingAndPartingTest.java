package ebb.core.identity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.Chance;
import ebb.core.change.Input;
import ebb.core.identity.Identity.Key;
import ebb.core.imports.Source;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.core.problem.Refusal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongSupplier;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class MergingAndPartingTest {
  private static final Instant AT = Instant.parse("2027-01-01T00:00:00Z");
  private static final PersonId KEPT = new PersonId(1);
  private static final PersonId OTHER = new PersonId(2);
  private static final PersonId REPORT = new PersonId(3);
  private static final PersonId NEW = new PersonId(4);

  @DataProvider
  Object[][] seeds() {
    return new Object[][] {{1L}, {2L}, {3L}, {4L}, {5L}};
  }

  @Test(dataProvider = "seeds")
  public void whoWasMadeOneAndIsPartedAgainHasAllThatWasSaidOfThemBefore(long seed) {
    var random = Chance.random(seed);
    var kept = said(KEPT, "hr", random);
    var other = said(OTHER, "pay", random);
    var state = new State();
    state.put(kept);
    state.put(other);

    state.take(
        Merging.inputs(
            identity(KEPT, List.of(kept), new Key("hr", "7")),
            identity(OTHER, List.of(other), new Key("pay", "70")),
            numbers()));

    assertThat(state.texts(OTHER, "pay")).isEmpty();
    assertThat(state.texts(KEPT, "pay")).isEqualTo(Identity.texts(other));
    assertThat(state.texts(KEPT, "hr")).isEqualTo(Identity.texts(kept));
    assertThat(state.keys).containsEntry(new Key("pay", "70"), KEPT);

    state.take(
        Parting.inputs(
            identity(
                KEPT,
                List.of(kept, state.said(KEPT, "pay")),
                new Key("hr", "7"),
                new Key("pay", "70")),
            new Key("pay", "70"),
            NEW,
            List.of(),
            numbers()));

    assertThat(state.texts(NEW, "pay")).isEqualTo(Identity.texts(other));
    assertThat(state.texts(KEPT, "pay")).isEmpty();
    assertThat(state.texts(KEPT, "hr")).isEqualTo(Identity.texts(kept));
    assertThat(state.keys).containsEntry(new Key("pay", "70"), NEW);
  }

  @Test
  public void whomOneSourceNamesTwiceIsPartedByWhatEachKeySaidLast() {
    var first = with(KEPT, "hr", Map.of("title", "Mate"));
    var second = with(KEPT, "hr", Map.of("title", "Cook"));
    var state = new State();
    state.put(second);

    state.take(
        Parting.inputs(
            identity(KEPT, List.of(second), new Key("hr", "7"), new Key("hr", "8")),
            new Key("hr", "8"),
            NEW,
            List.of(new Parting.Left("8", second), new Parting.Left("7", first)),
            numbers()));

    assertThat(state.texts(NEW, "hr")).containsEntry("title", "Cook");
    assertThat(state.texts(KEPT, "hr")).containsEntry("title", "Mate");
  }

  @Test
  public void handsMembershipsAndReportsComeAlong() {
    var hand = with(OTHER, Source.HAND, Map.of("title", "Purser", "location", "Quay"));
    var own = with(KEPT, Source.HAND, Map.of("title", "Bosun"));
    var report = with(REPORT, "pay", Map.of(Attributes.MANAGER, "2"));
    var grant = new Grant(5, OTHER, "mail", "deck", "watch", LocalDate.of(2027, 1, 1), null, "pay");
    var suspension =
        new Suspension(
            6,
            OTHER,
            Suspension.Reason.INQUIRY,
            null,
            LocalDate.of(2027, 1, 1),
            null,
            Set.of(),
            null,
            true,
            false,
            "ines");
    var kept = new Identity(KEPT, "Ida", List.of(own), List.of(), List.of(), List.of(), List.of());
    var other =
        new Identity(
            OTHER,
            "Ida",
            List.of(hand, with(OTHER, "pay", Map.of("title", "Cook"))),
            List.of(new Key("pay", "70")),
            List.of(grant),
            List.of(suspension),
            List.of(report));

    var inputs = Merging.inputs(kept, other, numbers());

    var state = new State();
    state.put(hand);
    state.put(own);
    state.put(report);
    state.take(inputs);
    assertThat(state.texts(KEPT, Source.HAND))
        .as("what a hand said of the one that is kept stays")
        .containsEntry("title", "Bosun")
        .containsEntry("location", "Quay");
    assertThat(state.texts(REPORT, "pay")).containsEntry(Attributes.MANAGER, "1");
    assertThat(inputs)
        .contains(new Input.EndGrant(OTHER, 5), new Input.EndSuspension(OTHER, 6))
        .anyMatch(
            input ->
                input instanceof Input.Suspend(var person, var ordered)
                    && person.equals(KEPT)
                    && ordered.person().equals(KEPT)
                    && ordered.discreet())
        .anyMatch(
            input ->
                input instanceof Input.Give(var person, var given)
                    && person.equals(KEPT)
                    && given.group().equals("deck")
                    && given.source().equals("pay"));
  }

  @Test
  public void whoeverASourceNamesTwiceIsNotMadeOne() {
    var refused =
        catchThrowableOfType(
            Refusal.class,
            () ->
                Merging.inputs(
                    identity(KEPT, List.of(with(KEPT, "hr", Map.of("title", "Mate")))),
                    identity(OTHER, List.of(with(OTHER, "hr", Map.of("title", "Cook")))),
                    numbers()));

    assertThat(refused.problems()).extracting("code").containsExactly("known-twice");
  }

  @Test
  public void oneRecordWithOneKeyHasNobodyToPartFrom() {
    var refused =
        catchThrowableOfType(
            Refusal.class,
            () ->
                Parting.inputs(
                    identity(
                        KEPT,
                        List.of(with(KEPT, "hr", Map.of("title", "Mate"))),
                        new Key("hr", "7")),
                    new Key("hr", "7"),
                    NEW,
                    List.of(),
                    numbers()));

    assertThat(refused.problems()).extracting("code").containsExactly("nobody-left");
  }

  @Test
  public void nobodyIsMadeOneWithThemselves() {
    var one = identity(KEPT, List.of(with(KEPT, "hr", Map.of("title", "Mate"))));

    var refused = catchThrowableOfType(Refusal.class, () -> Merging.inputs(one, one, numbers()));

    assertThat(refused.problems()).extracting("code").containsExactly("nobody-else");
  }

  private static Identity identity(PersonId id, List<Assertions> said, Key... keys) {
    return new Identity(id, "Ida Holm", said, List.of(keys), List.of(), List.of(), List.of());
  }

  private static Assertions said(PersonId id, String source, Random random) {
    var values = new TreeMap<String, String>();
    for (var attribute : List.of("title", "location", "department", "userType")) {
      if (random.nextBoolean()) {
        values.put(attribute, "value " + random.nextInt(3));
      }
    }
    values.put("name.familyName", "Holm");
    return with(id, source, values);
  }

  private static Assertions with(PersonId id, String source, Map<String, String> values) {
    return Assertions.none(id, source).with(values, AT, 1);
  }

  private static LongSupplier numbers() {
    return new AtomicLong(100)::incrementAndGet;
  }

  /** What stands after inputs were taken in. */
  private static final class State {
    private final Map<String, Assertions> said = new HashMap<>();
    private final Map<Key, PersonId> keys = new HashMap<>();

    void put(Assertions one) {
      said.put(one.person() + one.source(), one);
    }

    Assertions said(PersonId person, String source) {
      return said.getOrDefault(person + source, Assertions.none(person, source));
    }

    Map<String, String> texts(PersonId person, String source) {
      return Identity.texts(said(person, source));
    }

    void take(List<Input> inputs) {
      for (var input : new ArrayList<>(inputs)) {
        switch (input) {
          case Input.Assert(var person, var source, _, _, var edits, _) ->
              put(said(person, source).with(edits, AT, 2));
          case Input.MoveKey(var person, var source, var key, _) ->
              keys.put(new Key(source, key), person);
          default -> {}
        }
      }
    }
  }
}
