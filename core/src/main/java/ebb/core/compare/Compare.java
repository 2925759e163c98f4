package ebb.core.compare;

import ebb.core.application.Capabilities;
import ebb.core.application.Level;
import ebb.core.application.Part;
import ebb.core.application.Value;
import ebb.core.compare.Difference.Differing;
import ebb.core.compare.Difference.InGroup;
import ebb.core.compare.Difference.InSeat;
import ebb.core.compare.Difference.Missing;
import ebb.core.compare.Difference.NotEntitled;
import ebb.core.compare.Difference.NotInGroup;
import ebb.core.compare.Difference.OffLevel;
import ebb.core.compare.Difference.WithoutSeat;
import ebb.core.person.PersonId;
import ebb.core.rule.DesiredAccount;
import ebb.core.rule.Grounded;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;

/** Compares one desired account with the one held. Equality is the application's. */
public final class Compare {
  private final Capabilities capabilities;
  private final Function<PersonId, Reference> references;

  /** Where a reference to a person leads in this application. */
  public sealed interface Reference {
    /** An account that exists. */
    record Known(String accountId) implements Reference {}

    /** An account that is about to be created. */
    record Coming() implements Reference {}

    /** The person has none and gets none: the attribute should hold nothing. */
    record None() implements Reference {}
  }

  public Compare(Capabilities capabilities, Function<PersonId, Reference> references) {
    this.capabilities = capabilities;
    this.references = references;
  }

  /**
   * @param desired empty where nothing entitles the person to the application
   * @param held empty where there is no account; one that is gone counts as none
   */
  public List<Difference> differences(
      Optional<DesiredAccount> desired, Optional<HeldAccount> held) {
    var existing = held.filter(account -> account.level().exists());
    if (existing.isEmpty()) {
      return desired.map(this::missing).orElse(List.of());
    }
    return desired
        .map(wanted -> between(wanted, existing.get()))
        .orElseGet(() -> notEntitled(existing.get()));
  }

  private List<Difference> missing(DesiredAccount desired) {
    if (desired.level() == Level.SUSPENDED) {
      return List.of();
    }
    var all = new ArrayList<Difference>();
    var edits = new TreeMap<String, Edit>();
    desired
        .values()
        .forEach(
            (attribute, grounded) -> {
              var value = settled(grounded.value());
              if (!value.isNothing()) {
                edits.put(attribute, new Edit(List.of(), value, grounded.ground()));
              }
            });
    all.add(new Missing(desired.level(), desired.ground(), edits));
    desired.groups().forEach((group, ground) -> all.add(new NotInGroup(group, ground)));
    if (capabilities.has(Part.SEATS)) {
      desired.seats().forEach((seat, ground) -> all.add(new WithoutSeat(seat, ground)));
    }
    return all;
  }

  /** One that is being closed was switched off, and stays so whoever switches it on there. */
  private List<Difference> notEntitled(HeldAccount held) {
    if (!held.closing() && !held.stripped()) {
      return List.of(new NotEntitled(held.level()));
    }
    return held.observed().usable()
        ? List.of(new OffLevel(held.level(), Level.SUSPENDED, "closing"))
        : List.of();
  }

  private List<Difference> between(DesiredAccount desired, HeldAccount held) {
    var all = new ArrayList<Difference>();
    if (held.leftAlone() || (held.stripped() && desired.level() == Level.SUSPENDED)) {
      level(desired, held).ifPresent(all::add);
      return all;
    }
    var edits = edits(desired, held);
    if (!edits.isEmpty()) {
      all.add(new Differing(edits));
    }
    level(desired, held).ifPresent(all::add);
    if (capabilities.has(Part.GROUPS) && desired.level() != Level.SUSPENDED) {
      all.addAll(groups(desired, held));
    }
    if (capabilities.has(Part.SEATS) && desired.level() != Level.SUSPENDED) {
      all.addAll(seats(desired, held));
    }
    return all;
  }

  private TreeMap<String, Edit> edits(DesiredAccount desired, HeldAccount held) {
    var edits = new TreeMap<String, Edit>();
    desired
        .values()
        .forEach(
            (attribute, grounded) ->
                edit(attribute, grounded, held).ifPresent(edit -> edits.put(attribute, edit)));
    return edits;
  }

  private Optional<Edit> edit(String attribute, Grounded<Value> grounded, HeldAccount held) {
    var before = held.observed().texts(attribute);
    var value = settled(grounded.value());
    return isSame(attribute, value, before)
        ? Optional.empty()
        : Optional.of(new Edit(before, value, grounded.ground()));
  }

  private boolean isSame(String attribute, Value value, List<String> before) {
    if (value.isReference()) {
      return references.apply(value.accountOf()) instanceof Reference.Known(var id)
          && before.equals(List.of(id));
    }
    return capabilities.equalityOf(attribute).same(value.texts(), before);
  }

  private Value settled(Value value) {
    return value.isReference() && references.apply(value.accountOf()) instanceof Reference.None
        ? Value.NOTHING
        : value;
  }

  private static Optional<Difference> level(DesiredAccount desired, HeldAccount held) {
    var usable = held.observed().usable();
    return switch (desired.level()) {
      case ACTIVE -> usable ? Optional.empty() : Optional.of(offLevel(desired, held));
      case PREPARED, SUSPENDED -> usable ? Optional.of(offLevel(desired, held)) : Optional.empty();
      case DELETED, GONE -> throw new IllegalStateException("Nothing desires " + desired.level());
    };
  }

  private static Difference offLevel(DesiredAccount desired, HeldAccount held) {
    return new OffLevel(held.level(), desired.level(), desired.ground());
  }

  private static List<Difference> groups(DesiredAccount desired, HeldAccount held) {
    var all = new ArrayList<Difference>();
    desired
        .groups()
        .forEach(
            (group, ground) -> {
              if (!held.observed().groups().contains(group)) {
                all.add(new NotInGroup(group, ground));
              }
            });
    for (var group : held.observed().groups()) {
      if (held.grounds().containsKey(group) && !desired.groups().containsKey(group)) {
        all.add(new InGroup(group));
      }
    }
    return all;
  }

  private static List<Difference> seats(DesiredAccount desired, HeldAccount held) {
    var all = new ArrayList<Difference>();
    desired
        .seats()
        .forEach(
            (seat, ground) -> {
              if (!held.observed().seats().contains(seat)) {
                all.add(new WithoutSeat(seat, ground));
              }
            });
    for (var seat : held.observed().seats()) {
      if (held.grounds().containsKey(HeldAccount.seat(seat))
          && !desired.seats().containsKey(seat)) {
        all.add(new InSeat(seat));
      }
    }
    return all;
  }
}
