package ebb.service.changes;

import ebb.core.change.ChangeState;
import ebb.core.execution.Result;
import ebb.core.guard.FailureGuard;
import ebb.service.time.BusinessClock;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.time.Instant;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Stops a run of which too much is refused: what still waits is kept back until somebody looks. */
@Component
final class Halts implements Aftermath {
  private final Changes changes;
  private final ChangeSets changeSets;
  private final BusinessClock clock;
  private final Journal journal;

  Halts(Changes changes, ChangeSets changeSets, BusinessClock clock, Journal journal) {
    this.changes = changes;
    this.changeSets = changeSets;
    this.clock = clock;
    this.journal = journal;
  }

  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    results.stream()
        .map(Result::change)
        .filter(change -> change.state() == ChangeState.REFUSED)
        .map(change -> change.changeSet())
        .distinct()
        .forEach(set -> stopIfTooMany(session, set));
  }

  private void stopIfTooMany(StatelessSession session, long set) {
    long refused = 0;
    long over = 0;
    for (var count : changes.counts(session, set)) {
      refused += count.state() == ChangeState.REFUSED ? count.count() : 0;
      over += count.state().isDone() || count.state() == ChangeState.REFUSED ? count.count() : 0;
    }
    if (FailureGuard.isTooMany(refused - changeSets.failuresLet(session, set), over)
        && changes.halt(session, set) > 0) {
      journal.write(
          session,
          clock.instant(),
          Deed.of(
              Releases.BY_ITSELF,
              "stopped change set %d: %d of %d changes were refused"
                  .formatted(set, refused, over)));
    }
  }
}
