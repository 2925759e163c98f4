package ebb.core.change;

import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.rule.DesiredAccount;
import java.time.Instant;
import java.util.Collections;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * One step on one account.
 *
 * @param account null until an account that is created has been seen
 * @param edits attributes set by a create or update; empty otherwise
 * @param group the group joined or left, the seat taken or freed, or the only way in to be shut;
 *     null otherwise
 * @param ground why: the rule, grant or step it follows from
 * @param usable whether a created account can be used at once; false for other kinds
 * @param due not before this machine time
 * @param attempts times it was sent
 * @param problem why it waits, was refused or blocked; null otherwise
 */
public record Change(
    long id,
    long changeSet,
    PersonId person,
    String application,
    Long account,
    ChangeKind kind,
    SortedMap<String, Edit> edits,
    String group,
    String ground,
    boolean usable,
    ChangeState state,
    Instant due,
    int attempts,
    Problem problem,
    Instant askedAt,
    Instant seenAt) {
  /** The attribute by which people sign in, in every application's own words. */
  private static final String LOGIN = "userName";

  public Change {
    edits = Collections.unmodifiableSortedMap(new TreeMap<>(edits));
  }

  public static Change proposed(
      long id, long changeSet, PersonId person, String application, Long account, Step step) {
    return new Change(
        id,
        changeSet,
        person,
        application,
        account,
        step.kind(),
        step.edits(),
        step.group(),
        step.ground(),
        step.usable(),
        ChangeState.PROPOSED,
        Instant.EPOCH,
        0,
        null,
        null,
        null);
  }

  /** Whether it gives an account that is there another login. */
  public boolean renames() {
    return kind == ChangeKind.UPDATE && edits.containsKey(LOGIN);
  }

  /** Whether it goes ahead of all others, past every pause and limit. */
  public boolean isUrgent() {
    return DesiredAccount.EMERGENCY_STOP.equals(ground);
  }

  /** What it would do, without where it stands: two changes of equal steps are the same change. */
  public Step step() {
    return new Step(kind, edits, group, ground, usable);
  }

  /** The same change, now that its account has a number. */
  public Change on(long account) {
    return new Change(
        id,
        changeSet,
        person,
        application,
        account,
        kind,
        edits,
        group,
        ground,
        usable,
        state,
        due,
        attempts,
        problem,
        askedAt,
        seenAt);
  }

  public Change asked(Instant now) {
    return in(ChangeState.CLAIMED, due, attempts + 1, problem, now, seenAt);
  }

  public Change waits(ChangeState state, Instant until, Problem why) {
    return in(state, until, attempts, why, askedAt, seenAt);
  }

  /**
   * Claimed, and put back before anything was sent.
   *
   * @param mayBeDone whether it may have been carried out before
   */
  public Change notSent(Instant until, boolean mayBeDone) {
    var back = mayBeDone ? ChangeState.UNSURE : ChangeState.QUEUED;
    return in(back, until, attempts - 1, problem, askedAt, seenAt);
  }

  public Change over(ChangeState state, Instant now, Problem why) {
    return in(state, due, attempts, why, askedAt, state.isDone() ? now : null);
  }

  /** When it was seen, by another clock than that of the queue: people read it. */
  public Change seenAt(Instant at) {
    return with(state, due, attempts, problem, askedAt, at);
  }

  private Change in(
      ChangeState next, Instant due, int attempts, Problem problem, Instant asked, Instant seen) {
    if (!state.mayBecome(next)) {
      throw new IllegalStateException(
          "Change %d cannot go from %s to %s".formatted(id, state, next));
    }
    return with(next, due, attempts, problem, asked, seen);
  }

  private Change with(
      ChangeState next, Instant due, int attempts, Problem problem, Instant asked, Instant seen) {
    return new Change(
        id,
        changeSet,
        person,
        application,
        account,
        kind,
        edits,
        group,
        ground,
        usable,
        next,
        due,
        attempts,
        problem,
        asked,
        seen);
  }
}
