package ebb.service.changes;

import ebb.store.Database;
import ebb.store.changes.Attempts;
import java.time.Duration;
import java.time.Instant;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Forgets what went over the wire long ago: there are people's data in it. */
@Component
final class OldAttempts {
  private static final int AT_ONCE = 1_000;

  private final Database database;
  private final Attempts attempts;
  private final Duration kept;

  OldAttempts(
      Database database, Attempts attempts, @Value("${ebb.attempts-kept:P30D}") Duration kept) {
    this.database = database;
    this.attempts = attempts;
    this.kept = kept;
  }

  @Scheduled(fixedDelayString = "PT1H", initialDelayString = "PT1M")
  void forget() {
    var before = Instant.now().minus(kept);
    while (database.write(session -> attempts.forget(session, before, AT_ONCE)) >= AT_ONCE) {
      // The next part.
    }
  }
}
