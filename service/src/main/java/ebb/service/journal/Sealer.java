package ebb.service.journal;

import ebb.store.Database;
import ebb.store.journal.Journal;
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

  private final Database database;
  private final Journal journal;

  Sealer(Database database, Journal journal) {
    this.database = database;
    this.journal = journal;
  }

  @Scheduled(fixedDelay = 300)
  synchronized void sealAll() {
    try {
      while (database.read(journal::hasOpen) && seal() == ENTRIES_AT_ONCE) {
        // The next part.
      }
    } catch (ConstraintViolationException e) {
      LOG.info("Another process sealed the same entries; they are looked at again");
    }
  }

  private int seal() {
    return database.write(session -> journal.seal(session, ENTRIES_AT_ONCE));
  }
}
