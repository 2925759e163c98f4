package ebb.core.identity;

import ebb.core.change.Input;
import ebb.core.imports.Source;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.LongSupplier;

/**
 * Makes one person of two records. What sources say of the other goes over to the one that is kept,
 * with their keys, memberships and reports; nothing says anything of the other any more, so that
 * its accounts are closed by the gates of a departure.
 */
public final class Merging {
  /**
   * @param grantNumbers gives numbers that no grant and no suspension has
   * @throws Refusal if a source knows both: it would say two things of one person
   */
  public static List<Input> inputs(Identity kept, Identity other, LongSupplier grantNumbers) {
    if (kept.id().equals(other.id()) || other.said().isEmpty()) {
      throw Refusal.invalid(nobodyElse(kept, other));
    }
    var both =
        other.fromSources().stream()
            .map(Assertions::source)
            .filter(s -> kept.of(s).isPresent())
            .toList();
    if (!both.isEmpty()) {
      throw Refusal.conflict(knownTwice(kept, other, String.join(", ", both)));
    }
    var inputs = new ArrayList<Input>();
    for (var said : other.fromSources()) {
      inputs.add(new Input.Assert(kept.id(), said.source(), null, null, Identity.texts(said)));
      inputs.add(
          new Input.Assert(other.id(), said.source(), null, null, Identity.to(said, Map.of())));
    }
    other
        .keys()
        .forEach(
            key -> inputs.add(new Input.MoveKey(kept.id(), key.source(), key.key(), other.id())));
    inputs.addAll(hands(kept, other));
    inputs.addAll(grants(kept, other, grantNumbers));
    inputs.addAll(suspensions(kept, other, grantNumbers));
    inputs.addAll(reports(kept, other));
    return inputs;
  }

  /** What hands said of the one that is kept stays; the rest comes along. */
  private static List<Input> hands(Identity kept, Identity other) {
    var said = other.byHand();
    if (said.values().isEmpty()) {
      return List.of();
    }
    var more = new TreeMap<>(Identity.texts(said));
    more.keySet().removeAll(kept.byHand().values().keySet());
    return List.of(
        new Input.Assert(kept.id(), Source.HAND, null, null, more),
        new Input.Assert(other.id(), Source.HAND, null, null, Identity.to(said, Map.of())));
  }

  private static List<Input> grants(Identity kept, Identity other, LongSupplier numbers) {
    var inputs = new ArrayList<Input>();
    for (var grant : other.grants()) {
      inputs.add(new Input.EndGrant(other.id(), grant.id()));
      inputs.add(new Input.Give(kept.id(), moved(grant, kept, numbers.getAsLong())));
    }
    return inputs;
  }

  /** Whoever was kept out as either of the two is kept out. */
  private static List<Input> suspensions(Identity kept, Identity other, LongSupplier numbers) {
    var inputs = new ArrayList<Input>();
    for (var suspension : other.suspensions()) {
      inputs.add(new Input.EndSuspension(other.id(), suspension.id()));
      inputs.add(new Input.Suspend(kept.id(), suspension.of(kept.id(), numbers.getAsLong())));
    }
    return inputs;
  }

  private static Grant moved(Grant grant, Identity to, long number) {
    return new Grant(
        number,
        to.id(),
        grant.application(),
        grant.group(),
        grant.reason(),
        grant.from(),
        grant.until(),
        grant.source());
  }

  private static List<Input> reports(Identity kept, Identity other) {
    return other.reports().stream()
        .filter(said -> !said.person().equals(kept.id()))
        .<Input>map(
            said ->
                new Input.Assert(
                    said.person(),
                    said.source(),
                    null,
                    null,
                    Map.of(Attributes.MANAGER, kept.id().toString())))
        .toList();
  }

  private static Problem nobodyElse(Identity kept, Identity other) {
    return new Problem(
        "nobody-else",
        kept.id().equals(other.id())
            ? "%s is one person already.".formatted(kept.name())
            : "Nothing is said of person %s any more.".formatted(other.id()),
        "There are no two records to make one.",
        "Choose the record of the other one.",
        null);
  }

  private static Problem knownTwice(Identity kept, Identity other, String sources) {
    return new Problem(
        "known-twice",
        "%s names both: %s (person %s) and %s (person %s)."
            .formatted(sources, kept.name(), kept.id(), other.name(), other.id()),
        "It would say two things of one person, and change them with every reading.",
        "Have one of the two rows taken out there. When it is missing from the next file, answer that they have left, or bring a column with their former key.",
        null);
  }

  private Merging() {}
}
