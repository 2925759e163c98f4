package ebb.service.process;

import ebb.store.Database;
import ebb.store.changes.ChangeQueue;
import ebb.store.departures.Departures;
import ebb.store.feeds.Feeds;
import ebb.store.notices.Notices;
import ebb.store.turns.Turns;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Ends the leases of a process that has died. H2 lets one process alone open a file, so a lease
 * that is found there at the start is held by nobody; over an H2 server it may be another's, and is
 * left to run out.
 */
@Component
final class LeasesOfTheDead implements InitializingBean {
  private final Database database;
  private final ChangeQueue queue;
  private final Departures departures;
  private final Notices notices;
  private final Feeds feeds;
  private final Turns turns;
  private final boolean alone;

  LeasesOfTheDead(
      Database database,
      ChangeQueue queue,
      Departures departures,
      Notices notices,
      Feeds feeds,
      Turns turns,
      @Value("${ebb.database-url}") String databaseUrl) {
    this.database = database;
    this.queue = queue;
    this.departures = departures;
    this.notices = notices;
    this.feeds = feeds;
    this.turns = turns;
    this.alone = databaseUrl.startsWith("jdbc:h2:file:");
  }

  /** Before anything is scheduled. */
  @Override
  public void afterPropertiesSet() {
    if (alone) {
      database.writeAll(
          session -> {
            queue.endLeases(session);
            departures.endLeases(session);
            notices.endLeases(session);
            feeds.letGo(session);
            turns.endLeases(session);
          });
    }
  }
}
