package ebb.service.sync;

import ebb.core.change.Change;
import ebb.core.execution.Result;
import ebb.core.person.PersonId;
import ebb.service.changes.Aftermath;
import ebb.service.evaluation.Evaluated;
import ebb.store.applications.Drifts;
import java.time.Instant;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Whoever drifted is looked at again once something is said of them, or done for them. */
@Component
final class DriftAftermath implements Aftermath {
  private final Drifts drifts;

  DriftAftermath(Drifts drifts) {
    this.drifts = drifts;
  }

  @Override
  public void released(
      StatelessSession session, Evaluated person, List<Change> changes, Instant at) {
    drifts.lookAgain(session, person.subject().person().id());
  }

  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    var people = new TreeMap<String, TreeSet<PersonId>>();
    for (var result : results) {
      Change change = result.change();
      if (change.state().isOver()) {
        people.computeIfAbsent(change.application(), _ -> new TreeSet<>()).add(change.person());
      }
    }
    people.forEach((application, who) -> drifts.lookAgain(session, application, who));
  }
}
