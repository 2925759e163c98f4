package ebb.core.change;

import ebb.core.application.Capabilities;
import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * What each change of a set needs first: the account before anything is done to it, and the account
 * a reference points to before the reference. Where creates refer to each other in a ring, one of
 * them is created without its reference, which follows as an update.
 *
 * <p>Counted as well is what they need of an application, seats, and what it will refuse of them:
 * for want of a value it demands, or of the right to write one.
 *
 * <p>Of each change only what it refers to is held, some hundred bytes; not for several threads.
 */
public final class Needs {
  /** A step on somebody's account, before it has a number. */
  public record Draft(PersonId person, String application, Long account, Step step) {}

  /**
   * A create in a ring.
   *
   * @param attributes that must follow as an update
   * @param accountsOf whose creates that update needs, beside its own
   */
  public record Split(long create, SortedSet<String> attributes, Set<Long> accountsOf) {}

  /**
   * @param firsts number of a change to the numbers of those it needs first
   */
  public record Ordered(SortedMap<Long, Set<Long>> firsts, List<Split> splits) {}

  private record Place(PersonId person, String application) {}

  private record Node(long number, Place place, SortedMap<String, PersonId> references) {}

  private final List<Node> nodes = new ArrayList<>();
  private final Map<Place, Long> creates = new HashMap<>();
  private final SortedMap<Long, Set<Long>> firsts = new TreeMap<>();
  private final SortedMap<String, SortedMap<String, Long>> taken = new TreeMap<>();
  private final SortedMap<String, SortedMap<String, Long>> freed = new TreeMap<>();

  private final SortedMap<String, SortedMap<String, Long>> lacking = new TreeMap<>();
  private final SortedMap<String, SortedMap<String, Long>> forbidden = new TreeMap<>();
  private final Function<String, Capabilities> can;

  /**
   * @param can what an application can do
   */
  public Needs(Function<String, Capabilities> can) {
    this.can = can;
  }

  /** Notes a change of the set under its number. */
  public void add(long number, Draft draft) {
    var place = new Place(draft.person(), draft.application());
    nodes.add(new Node(number, place, references(draft.step())));
    if (draft.step().kind() == ChangeKind.CREATE) {
      creates.put(place, number);
    }
    switch (draft.step().kind()) {
      case CREATE -> lacks(draft).forEach(name -> count(lacking, draft, name));
      case UPDATE -> {
        lacks(draft).forEach(name -> count(lacking, draft, name));
        forbids(draft).forEach(name -> count(forbidden, draft, name));
      }
      case TAKE_SEAT -> count(taken, draft, draft.step().group());
      case FREE_SEAT -> count(freed, draft, draft.step().group());
      default -> {}
    }
  }

  /** What a new account would not have, or one that is there would lose. */
  private Stream<String> lacks(Draft draft) {
    var edits = draft.step().edits();
    var isNew = draft.step().kind() == ChangeKind.CREATE;
    return can.apply(draft.application()).required().stream()
        .filter(name -> edits.containsKey(name) ? edits.get(name).after().isNothing() : isNew);
  }

  private Stream<String> forbids(Draft draft) {
    var denied = can.apply(draft.application()).denied();
    return draft.step().edits().keySet().stream().filter(denied::contains);
  }

  private static void count(
      SortedMap<String, SortedMap<String, Long>> all, Draft draft, String what) {
    all.computeIfAbsent(draft.application(), _ -> new TreeMap<>()).merge(what, 1L, Long::sum);
  }

  /** How many changes touch what may not be written there, by application and attribute. */
  public SortedMap<String, SortedMap<String, Long>> forbidden() {
    return forbidden;
  }

  /** How many accounts would be without a value that is demanded, by application and attribute. */
  public SortedMap<String, SortedMap<String, Long>> lacking() {
    return lacking;
  }

  /** How many seats would be taken, by application and seat. */
  public SortedMap<String, SortedMap<String, Long>> seatsTaken() {
    return taken;
  }

  /** How many seats would be freed, by application and seat. */
  public SortedMap<String, SortedMap<String, Long>> seatsFreed() {
    return freed;
  }

  private static SortedMap<String, PersonId> references(Step step) {
    var references = new TreeMap<String, PersonId>();
    step.edits()
        .forEach(
            (attribute, edit) -> {
              if (edit.after().isReference()) {
                references.put(attribute, edit.after().accountOf());
              }
            });
    return references;
  }

  /** Once all changes of the set were added. */
  public Ordered ordered() {
    var splits = new ArrayList<Split>();
    for (var node : nodes) {
      var create = creates.get(node.place());
      if (create != null && create != node.number()) {
        need(node.number(), create);
      }
      needReferences(node, splits);
    }
    return new Ordered(firsts, splits);
  }

  private void needReferences(Node node, List<Split> splits) {
    var follow = new TreeSet<String>();
    var accountsOf = new HashSet<Long>();
    node.references()
        .forEach(
            (attribute, person) -> {
              var create = creates.get(new Place(person, node.place().application()));
              if (create == null) {
                return;
              }
              if (leadsTo(create, node.number())) {
                follow.add(attribute);
                accountsOf.add(create);
              } else {
                need(node.number(), create);
              }
            });
    if (!follow.isEmpty()) {
      splits.add(new Split(node.number(), follow, accountsOf));
    }
  }

  private boolean leadsTo(long from, long to) {
    var seen = new HashSet<Long>();
    var open = new ArrayDeque<>(List.of(from));
    while (!open.isEmpty()) {
      long at = open.pop();
      if (at == to) {
        return true;
      }
      if (seen.add(at)) {
        open.addAll(firsts.getOrDefault(at, Set.of()));
      }
    }
    return false;
  }

  private void need(long change, long first) {
    firsts.computeIfAbsent(change, _ -> new HashSet<>(2)).add(first);
  }

  /** The edits a create in a ring keeps. */
  public static SortedMap<String, Edit> without(
      SortedMap<String, Edit> edits, SortedSet<String> attributes) {
    var rest = new TreeMap<>(edits);
    rest.keySet().removeAll(attributes);
    return rest;
  }

  /** The edits that follow it as an update. */
  public static SortedMap<String, Edit> only(
      SortedMap<String, Edit> edits, SortedSet<String> attributes) {
    var those = new TreeMap<>(edits);
    those.keySet().retainAll(attributes);
    return those;
  }
}
