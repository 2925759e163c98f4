package ebb.service.changes;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.turns.OneAtATime;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.people.Grants;
import ebb.store.people.People;
import ebb.store.people.Suspensions;
import ebb.store.rules.Rules;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Takes a set back: its inputs are reverted unless overridden since, and what follows from that is
 * shown as a set of its own. Nothing is done to an account directly.
 */
@Component
public final class TakeBacks {
  private final Database database;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final People people;
  private final Grants grants;
  private final Suspensions suspensions;
  private final Rules rules;
  private final Rehearsals rehearsals;
  private final OneAtATime oneAtATime;

  TakeBacks(
      Database database,
      Proposals proposals,
      ChangeSets changeSets,
      Changes changes,
      People people,
      Grants grants,
      Suspensions suspensions,
      Rules rules,
      Rehearsals rehearsals,
      OneAtATime oneAtATime) {
    this.oneAtATime = oneAtATime;
    this.database = database;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.changes = changes;
    this.people = people;
    this.grants = grants;
    this.suspensions = suspensions;
    this.rules = rules;
    this.rehearsals = rehearsals;
  }

  /**
   * Shows what taking a set back would do.
   *
   * @throws Refusal if it was not released, was taken back already, is about to be, or holds no
   *     inputs
   */
  public ChangeSet takeBack(long id, String by) {
    return oneAtATime.alone(
        "taking back change set " + id,
        "taking back change set " + id,
        _ -> {},
        () -> takeBackAlone(id, by));
  }

  private ChangeSet takeBackAlone(long id, String by) {
    database
        .read(session -> changeSets.takingBack(session, id))
        .ifPresent(
            other -> {
              throw Refusal.conflict(underWay(id, other));
            });
    var set = database.read(session -> releasedSet(session, id));
    var edits = database.read(session -> rules.reverting(session, id));
    if (!edits.isEmpty()) {
      return rehearsals.rehearse(title(set), by, id, edits);
    }
    var inputs = database.read(session -> reverting(session, id));
    if (inputs.isEmpty()) {
      throw Refusal.conflict(
          new Problem(
              "nothing-to-take-back",
              "Change set %d left no inputs that still stand.".formatted(id),
              "It was overridden since, or held only orders and differences.",
              "Correct the people themselves, or release another import.",
              null));
    }
    return proposals.propose(Cause.TAKE_BACK, title(set), by, id, inputs);
  }

  private static Problem underWay(long id, long other) {
    return new Problem(
        "taken-back-already",
        "Change set %d shows what taking %d back would do.".formatted(other, id),
        "Two of them would do the same twice.",
        "Release or discard that one: ebb changes show %d".formatted(other),
        null);
  }

  private static String title(ChangeSet set) {
    return set.takesBack() == null
        ? "take back: " + set.title()
        : set.title().replaceFirst("^take back: ", "let through again: ");
  }

  /** What taking a set back would not undo, in words; empty if all of it can be undone. */
  public List<String> cannotBeTakenBack(StatelessSession session, long set) {
    var lasting = new ArrayList<String>();
    for (var count : changes.counts(session, set)) {
      if (count.state().isDone()) {
        var words =
            switch (count.kind()) {
              case CREATE -> "accounts that were created are suspended, not deleted";
              case DELETE -> "accounts that were deleted do not come back";
              case STRIP -> "accounts that were stripped of what is personal stay so while off";
              case RESET -> "passwords that were reset stay reset";
              case CATCH_UP -> "people whose earlier items followed stay as they are in them";
              case SHUT -> "sessions and other ways in stay shut";
              default -> null;
            };
        if (words != null) {
          lasting.add("%s: %d %s".formatted(count.application(), count.count(), words));
        }
      }
    }
    return lasting;
  }

  private ChangeSet releasedSet(StatelessSession session, long id) {
    var set =
        changeSets
            .get(session, id)
            .orElseThrow(() -> Refusal.notFound("change set", id, "See: ebb changes list"));
    if (set.state() != SetState.RELEASED || set.takenBackBy() != null) {
      throw Refusal.conflict(
          new Problem(
              "cannot-be-taken-back",
              set.takenBackBy() != null
                  ? "Change set %d was taken back by %d.".formatted(id, set.takenBackBy())
                  : "Change set %d is %s.".formatted(id, set.state().word()),
              "Only what was released whole and still stands can be taken back.",
              set.takenBackBy() != null
                  ? "To let it through again: ebb changes take-back %d".formatted(set.takenBackBy())
                  : "Discard it: ebb changes discard %d".formatted(id),
              null));
    }
    return set;
  }

  /** By the day up to which each was said before; null for those that were said for good. */
  private static Map<LocalDate, Map<String, String>> reverting(People.Touched touched) {
    var byEnd = new HashMap<LocalDate, Map<String, String>>();
    touched
        .now()
        .reverting(touched.left(), touched.before())
        .forEach(
            (attribute, value) -> {
              var before = touched.before().values().get(attribute);
              byEnd
                  .computeIfAbsent(before == null ? null : before.until(), _ -> new TreeMap<>())
                  .put(attribute, value);
            });
    return byEnd;
  }

  private static Input reverted(Input done) {
    return switch (done) {
      case Input.Rekey(var person, var source, var from, var to) ->
          new Input.Rekey(person, source, to, from);
      case Input.MoveKey(var person, var source, var key, var from) ->
          new Input.MoveKey(from, source, key, person);
      case Input.Link(var person, var account) -> new Input.Unlink(person, account);
      case Input.Unlink(var person, var account) -> new Input.Link(person, account);
      case Input.Login(var person, var login, var kept, var before, var wasKept) ->
          new Input.Login(person, before, wasKept, login, kept);
      case Input.Assert _, Input.Give _, Input.EndGrant _, Input.Suspend _, Input.EndSuspension _ ->
          throw new IllegalStateException("It has its own way back: " + done);
    };
  }

  private List<Input> reverting(StatelessSession session, long cause) {
    var inputs = new ArrayList<Input>();
    for (var touched : people.touchedBy(session, cause)) {
      reverting(touched)
          .forEach(
              (until, edits) ->
                  inputs.add(
                      new Input.Assert(
                          touched.now().person(),
                          touched.now().source(),
                          null,
                          null,
                          edits,
                          until)));
    }
    changeSets.changesOfIdentity(session, cause).forEach(done -> inputs.add(reverted(done)));
    grants
        .givenBy(session, cause)
        .forEach(grant -> inputs.add(new Input.EndGrant(grant.person(), grant.id())));
    grants
        .endedBy(session, cause)
        .forEach(grant -> inputs.add(new Input.Give(grant.person(), grant)));
    suspensions
        .orderedBy(session, cause)
        .forEach(one -> inputs.add(new Input.EndSuspension(one.person(), one.id())));
    suspensions
        .endedBy(session, cause)
        .forEach(one -> inputs.add(new Input.Suspend(one.person(), one)));
    return inputs;
  }
}
