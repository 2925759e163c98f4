package ebb.core.identity;

import ebb.core.change.Input;
import ebb.core.identity.Identity.Key;
import ebb.core.person.Assertions;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongSupplier;

/**
 * Makes two people of one record that holds both: whom a source knows by one of its keys becomes
 * somebody of their own, with all that was said of them under it. Accounts stay where they are.
 */
public final class Parting {
  /**
   * What a source said of the record under one of its keys, when a row of it was taken in last.
   *
   * @param key null where it was not said under one
   */
  public record Left(String key, Assertions said) {}

  /**
   * @param to who it is from now on
   * @param history of what this source said of the record, newest first
   * @param grantNumbers gives numbers nobody has
   * @throws Refusal if the record is not known by that key, or by no other
   */
  public static List<Input> inputs(
      Identity record, Key key, PersonId to, List<Left> history, LongSupplier grantNumbers) {
    if (!record.keys().contains(key)) {
      throw Refusal.notFound(
          "key of %s in %s".formatted(record.name(), key.source()),
          key.key(),
          "See: ebb people keys " + record.id());
    }
    var now = record.of(key.source()).orElseGet(() -> Assertions.none(record.id(), key.source()));
    var isShared = record.keysOf(key.source()).size() > 1;
    if (!isShared && record.fromSources().size() < 2) {
      throw Refusal.conflict(nobodyLeft(record, key));
    }
    var inputs = new ArrayList<Input>();
    var theirs = last(history, key.key(), true).map(Left::said).orElse(now);
    var rest =
        isShared
            ? last(history, key.key(), false).map(Left::said).orElse(now)
            : Assertions.none(record.id(), key.source());
    inputs.add(new Input.Assert(to, key.source(), null, null, Identity.texts(theirs)));
    inputs.add(new Input.MoveKey(to, key.source(), key.key(), record.id()));
    inputs.add(
        new Input.Assert(
            record.id(), key.source(), null, null, Identity.to(now, Identity.texts(rest))));
    if (!isShared) {
      inputs.addAll(memberships(record, key.source(), to, grantNumbers));
    }
    inputs.addAll(reports(record, key.source()));
    return inputs;
  }

  private static Optional<Left> last(List<Left> history, String key, boolean isTheirs) {
    return history.stream()
        .filter(left -> left.key() != null && left.key().equals(key) == isTheirs)
        .findFirst();
  }

  private static List<Input> memberships(
      Identity record, String source, PersonId to, LongSupplier numbers) {
    var inputs = new ArrayList<Input>();
    for (var grant : record.grants()) {
      if (grant.source().equals(source)) {
        inputs.add(new Input.EndGrant(record.id(), grant.id()));
        inputs.add(
            new Input.Give(
                to,
                new Grant(
                    numbers.getAsLong(),
                    to,
                    grant.application(),
                    grant.group(),
                    grant.reason(),
                    grant.from(),
                    grant.until(),
                    source)));
      }
    }
    return inputs;
  }

  /** Whose manager the two were: their rows count again, and the next file says which of them. */
  private static List<Input> reports(Identity record, String source) {
    return record.reports().stream()
        .filter(said -> said.source().equals(source))
        .<Input>map(said -> new Input.Assert(said.person(), source, null, null, Map.of()))
        .toList();
  }

  private static Problem nobodyLeft(Identity record, Key key) {
    return new Problem(
        "nobody-left",
        "%s is known by key %s of %s and no other."
            .formatted(record.name(), key.key(), key.source()),
        "Nobody would be left of the record: there is one person in it, not two.",
        "If the row is wrong, correct it in %s.".formatted(key.source()),
        null);
  }

  private Parting() {}
}
