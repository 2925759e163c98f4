package ebb.service.changes;

import ebb.core.change.ChangeState;
import ebb.service.work.RunningWork;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.rules.Rules;
import java.util.EnumSet;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Released changes on their way, change sets being released, and rules being worked out. */
@Component
final class ChangesRunning implements RunningWork {
  private final Changes changes;
  private final ChangeSets changeSets;
  private final Rules rules;

  ChangesRunning(Changes changes, ChangeSets changeSets, Rules rules) {
    this.changes = changes;
    this.changeSets = changeSets;
    this.rules = rules;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of(
        "changes",
        changes.count(
            session, EnumSet.of(ChangeState.QUEUED, ChangeState.CLAIMED, ChangeState.UNSURE)),
        "change sets",
        (long) changeSets.releasing(session).size(),
        "rules",
        (long) rules.unshown(session).size() + rules.unsettled(session).size());
  }
}
