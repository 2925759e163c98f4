package ebb.core.change;

import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What each change of a set needs first: the account before anything is done to it, and the account
 * a reference points to before the reference. Where creates refer to each other in a ring, one of
 * them is created without its reference, which follows as an update.
 */
public final class Needs {
  /**
   * @param changes in an order in which they can be numbered; the updates that were split off come
   *     at the end
   * @param needs index of a change to the indexes of those it needs first
   */
  public record Ordered(List<Draft> changes, Map<Integer, Set<Integer>> needs) {}

  /** A step on somebody's account, before it has a number. */
  public record Draft(PersonId person, String application, Long account, Step step) {}

  private record Place(PersonId person, String application) {}

  private final List<Draft> changes;
  private final Map<Place, Integer> creates = new HashMap<>();
  private final Map<Integer, Set<Integer>> needs = new HashMap<>();
  private final Map<Integer, SortedMap<String, Edit>> split = new TreeMap<>();

  private Needs(List<Draft> changes) {
    this.changes = new ArrayList<>(changes);
  }

  public static Ordered order(List<Draft> changes) {
    return new Needs(changes).ordered();
  }

  private Ordered ordered() {
    for (int i = 0; i < changes.size(); i++) {
      if (changes.get(i).step().kind() == ChangeKind.CREATE) {
        creates.put(place(i), i);
      }
    }
    for (int i = 0; i < changes.size(); i++) {
      needOwnAccount(i);
      needReferences(i);
    }
    split.forEach(this::splitOff);
    return new Ordered(changes, needs);
  }

  private Place place(int i) {
    return new Place(changes.get(i).person(), changes.get(i).application());
  }

  private void needOwnAccount(int i) {
    var create = creates.get(place(i));
    if (create != null && create != i) {
      need(i, create);
    }
  }

  private void needReferences(int i) {
    var draft = changes.get(i);
    draft
        .step()
        .edits()
        .forEach(
            (attribute, edit) -> {
              var create =
                  edit.after().isReference()
                      ? creates.get(new Place(edit.after().accountOf(), draft.application()))
                      : null;
              if (create == null) {
                return;
              }
              if (leadsTo(create, i)) {
                split.computeIfAbsent(i, _ -> new TreeMap<>()).put(attribute, edit);
              } else {
                need(i, create);
              }
            });
  }

  private boolean leadsTo(int from, int to) {
    var seen = new HashSet<Integer>();
    var open = new java.util.ArrayDeque<Integer>(List.of(from));
    while (!open.isEmpty()) {
      int at = open.pop();
      if (at == to) {
        return true;
      }
      if (seen.add(at)) {
        open.addAll(needs.getOrDefault(at, Set.of()));
      }
    }
    return false;
  }

  private void splitOff(int create, SortedMap<String, Edit> references) {
    var draft = changes.get(create);
    var rest = new TreeMap<>(draft.step().edits());
    references.keySet().forEach(rest::remove);
    var step = draft.step();
    changes.set(
        create,
        new Draft(
            draft.person(),
            draft.application(),
            draft.account(),
            new Step(step.kind(), rest, step.group(), step.ground(), step.usable())));
    int update = changes.size();
    changes.add(
        new Draft(
            draft.person(),
            draft.application(),
            draft.account(),
            new Step(ChangeKind.UPDATE, references, null, step.ground(), false)));
    need(update, create);
    references
        .values()
        .forEach(
            edit ->
                need(
                    update, creates.get(new Place(edit.after().accountOf(), draft.application()))));
  }

  private void need(int change, int first) {
    if (change != first) {
      needs.computeIfAbsent(change, _ -> new HashSet<>()).add(first);
    }
  }
}
