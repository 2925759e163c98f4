package ebb.service.sync;

import ebb.core.change.ChangeKind;
import ebb.core.change.Finding;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.person.PersonId;
import ebb.store.applications.Drifts.Drift;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;

/** Gathers what differs in one application, person by person. */
final class Drifting {
  private final String application;
  private final Map<PersonId, Set<ChangeKind>> kinds = new HashMap<>();
  private final Map<PersonId, SortedSet<String>> values = new HashMap<>();

  Drifting(String application) {
    this.application = application;
  }

  /** Whether a step puts right what differs there. What follows from inputs has its own set. */
  boolean isDrift(Draft draft) {
    return draft.application().equals(application) && draft.step().kind() != ChangeKind.CLOSE;
  }

  /** Takes a step in if it is one of those. */
  boolean add(Draft draft) {
    var isDrift = isDrift(draft);
    if (isDrift) {
      var person = draft.person();
      kinds.computeIfAbsent(person, _ -> EnumSet.noneOf(ChangeKind.class)).add(draft.step().kind());
      values.computeIfAbsent(person, _ -> new TreeSet<>()).addAll(names(draft.step()));
    }
    return isDrift;
  }

  /** By what a value that comes back is known. */
  static Set<String> names(Step step) {
    return switch (step.kind()) {
      case UPDATE -> step.edits().keySet();
      case JOIN, LEAVE -> Set.of("group " + step.group());
      case TAKE_SEAT, FREE_SEAT -> Set.of("seat " + step.group());
      case SUSPEND, OPEN, RETURN -> Set.of("on or off");
      case CREATE -> Set.of("the account");
      case CLOSE, DELETE, STRIP, RESET, SHUT, CATCH_UP -> Set.of();
    };
  }

  boolean has(PersonId person) {
    return kinds.containsKey(person);
  }

  Map<PersonId, Drift> all() {
    var all = new HashMap<PersonId, Drift>();
    kinds.forEach((person, of) -> all.put(person, new Drift(Finding.of(of), values.get(person))));
    return all;
  }
}
