package ebb.service.suspensions;

import ebb.core.change.Change;
import ebb.core.person.Grant;
import ebb.service.changes.Aftermath;
import ebb.service.time.BusinessClock;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Grants;
import java.time.Instant;
import java.util.SortedSet;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Some applications take whoever is suspended out of their groups. Of those that nothing gives here
 * nobody would know any more: from then on a grant does, and they come back with the account.
 */
@Component
final class Remembering implements Aftermath {
  private static final String SOURCE = "ebb";

  /** Taking back the set that suspended somebody is when the groups are wanted. */
  private static final long NO_SET = 0;

  private final BusinessClock clock;
  private final Grants grants;
  private final Journal journal;

  Remembering(BusinessClock clock, Grants grants, Journal journal) {
    this.clock = clock;
    this.grants = grants;
    this.journal = journal;
  }

  @Override
  public void droppedFrom(
      StatelessSession session, Change suspension, SortedSet<String> groups, Instant at) {
    var application = suspension.application();
    for (var group : groups) {
      grants.give(
          session,
          new Grant(
              grants.number(session),
              suspension.person(),
              application,
              group,
              "in it when %s suspended the account".formatted(application),
              clock.today(),
              null,
              SOURCE),
          NO_SET);
    }
    journal.write(
        session,
        at,
        Deed.of(
            SOURCE,
            "%s took the suspended account out of %s; it comes back with it"
                .formatted(application, String.join(", ", groups)),
            suspension.person()));
  }
}
