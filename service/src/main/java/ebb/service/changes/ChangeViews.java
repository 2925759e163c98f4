package ebb.service.changes;

import ebb.api.ChangeSetView;
import ebb.api.ChangeView;
import ebb.api.CountView;
import ebb.api.EditView;
import ebb.api.ProgressView;
import ebb.api.TroubleView;
import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.SetState;
import ebb.core.compare.Edit;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.rule.RuleEdit;
import ebb.service.web.Problems;
import ebb.store.changes.Changes;
import ebb.store.imports.Imports;
import ebb.store.people.People;
import ebb.store.rules.Rules;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Change sets and changes as they are shown. */
@Component
public final class ChangeViews {
  private final Changes changes;
  private final People people;
  private final TakeBacks takeBacks;
  private final Imports imports;
  private final Rules rules;
  private final Rehearsals rehearsals;
  private final ReleaseTurns turns;

  ChangeViews(
      Changes changes,
      People people,
      TakeBacks takeBacks,
      Imports imports,
      Rules rules,
      Rehearsals rehearsals,
      ReleaseTurns turns) {
    this.rules = rules;
    this.rehearsals = rehearsals;
    this.turns = turns;
    this.imports = imports;
    this.changes = changes;
    this.people = people;
    this.takeBacks = takeBacks;
  }

  public ChangeSetView view(StatelessSession session, ChangeSet set) {
    return new ChangeSetView(
        set.id(),
        set.version(),
        set.cause().word(),
        set.title(),
        set.state().word(),
        rules.edits(session, set.id()).stream().map(RuleEdit::name).toList(),
        progress(session, set),
        changes.countPeople(session, set.id(), Reach.EVERYBODY),
        changes.countPeopleLeft(session, set.id()),
        changes.counts(session, set.id()).stream()
            .map(
                count ->
                    new CountView(
                        count.application(),
                        count.kind().word(),
                        count.state().word(),
                        count.count()))
            .toList(),
        changes.troubles(session, set.id()).stream().map(ChangeViews::view).toList(),
        Problems.views(set.stops()),
        Problems.views(set.state() == SetState.SHOWN ? set.remarks() : List.of()),
        set.cause() == Cause.IMPORT ? imports.ofSet(session, set.id()).orElse(null) : null,
        set.takesBack(),
        set.takenBackBy(),
        takeBacks.cannotBeTakenBack(session, set.id()),
        set.createdBy(),
        set.createdAt(),
        set.releasedBy(),
        set.releasedAt());
  }

  /** Null where nothing of it is computed or taken in. */
  private ProgressView progress(StatelessSession session, ChangeSet set) {
    if (set.state() == SetState.RELEASING) {
      var waits = turns.waitsFor(set.id());
      if (waits.isPresent()) {
        return new ProgressView("waiting for " + waits.get(), 0, 0, null);
      }
      var of = changes.countPeople(session, set.id(), Reach.EVERYBODY);
      return new ProgressView(
          "releasing", of - changes.countPeopleLeft(session, set.id()), of, null);
    }
    return rehearsals
        .progress(set.id())
        .map(one -> new ProgressView("computing", one.done(), one.of(), null))
        .orElse(null);
  }

  private static TroubleView view(Changes.Trouble trouble) {
    var waits = trouble.state() == ChangeState.QUEUED || trouble.state() == ChangeState.UNSURE;
    return new TroubleView(
        trouble.application(),
        trouble.state().word(),
        Problems.view(trouble.problem()),
        trouble.count(),
        waits ? trouble.nextTry() : null);
  }

  public List<ChangeView> views(StatelessSession session, Collection<Change> all) {
    var ids = new HashSet<PersonId>();
    for (var change : all) {
      ids.add(change.person());
      change.edits().values().stream()
          .filter(edit -> edit.after().isReference())
          .forEach(edit -> ids.add(edit.after().accountOf()));
    }
    Map<PersonId, String> names = ids.isEmpty() ? Map.of() : people.displayNames(session, ids);
    return all.stream().map(change -> view(change, names)).toList();
  }

  private static ChangeView view(Change change, Map<PersonId, String> names) {
    return new ChangeView(
        change.id(),
        change.changeSet(),
        change.person().value(),
        names.getOrDefault(change.person(), newName(change)),
        change.application(),
        change.kind().word(),
        change.state().word(),
        Wording.of(change),
        change.edits().entrySet().stream()
            .map(edit -> view(edit.getKey(), edit.getValue(), names))
            .toList(),
        change.ground(),
        change.attempts(),
        Problems.view(change.problem()),
        change.askedAt(),
        change.seenAt());
  }

  /** Somebody whose inputs are not taken in yet is in no list. */
  private static String newName(Change change) {
    var name = change.edits().get("displayName");
    return name == null ? "person " + change.person() : name.after().toString();
  }

  private static EditView view(String attribute, Edit edit, Map<PersonId, String> names) {
    var after =
        edit.after().isReference()
            ? names.getOrDefault(edit.after().accountOf(), edit.after().toString())
            : Wording.text(edit.after().texts());
    return new EditView(attribute, Wording.text(edit.before()), after, edit.ground());
  }
}
