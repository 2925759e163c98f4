package ebb.service.journal;

import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Sealing;
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

  private final Database database;
  private final Journal journal;
  private final Sealing sealing = new Sealing(Instant.now());

  Sealer(Database database, Journal journal) {
    this.database = database;
    this.journal = journal;
  }

  @Scheduled(fixedDelay = 300)
  synchronized void sealAll() {
    try {
      while (sealPart()) {
        // The next part.
      }
      var now = Instant.now();
      if (sealing.isDue(now)) {
        sealing.allSealed(database.read(journal::latest), now);
      }
    } catch (ConstraintViolationException e) {
      LOG.info("Another process sealed the same entries; they are looked at again");
    }
  }

  /**
   * A seal that a crash takes back is made again, and is the same: it need not be waited for.
   *
   * @return whether there may be more
   */
  private boolean sealPart() {
    var block = database.read(session -> sealing.next(session, ENTRIES_AT_ONCE));
    block.ifPresent(
        one -> {
          database.writeForNow(session -> Sealing.keep(session, one));
          sealing.kept(one);
        });
    return block.isPresent() && block.get().entries() == ENTRIES_AT_ONCE;
  }
}
