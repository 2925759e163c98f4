package ebb.service.journal;

import ebb.store.Database;
import ebb.store.journal.Journal;
import java.time.Duration;
import java.time.Instant;
import org.hibernate.exception.ConstraintViolationException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Chains journal entries after their commit, so that the chain is no lock for those who write. */
@Component
final class Sealer {
  private static final Logger LOG = LoggerFactory.getLogger(Sealer.class);
  private static final int ENTRIES_AT_ONCE = 500;

  private static final Duration LONGEST_TRANSACTION = Duration.ofMinutes(1);

  /** All entries are looked at once in a while, whatever was thought of them. */
  private static final Duration BEGIN_ANEW = Duration.ofHours(1);

  private final Database database;
  private final Journal journal;
  private long settled;
  private long latest;
  private Instant lookedAt = Instant.EPOCH;
  private Instant beganAnewAt = Instant.now();

  Sealer(Database database, Journal journal) {
    this.database = database;
    this.journal = journal;
  }

  @Scheduled(fixedDelay = 300)
  synchronized void sealAll() {
    try {
      while (database.read(session -> journal.hasOpen(session, settled))
          && seal() == ENTRIES_AT_ONCE) {
        // The next part.
      }
      settle(Instant.now());
    } catch (ConstraintViolationException e) {
      LOG.info("Another process sealed the same entries; they are looked at again");
    }
  }

  private int seal() {
    return database.write(session -> journal.seal(session, settled, ENTRIES_AT_ONCE));
  }

  /**
   * Numbers are drawn before they are committed: one that was not there when a later one was sealed
   * comes within the longest transaction, or never.
   */
  private void settle(Instant now) {
    if (now.isAfter(lookedAt.plus(LONGEST_TRANSACTION))) {
      settled = now.isAfter(beganAnewAt.plus(BEGIN_ANEW)) ? 0 : latest;
      beganAnewAt = settled == 0 ? now : beganAnewAt;
      latest = database.read(journal::latest);
      lookedAt = now;
    }
  }
}
