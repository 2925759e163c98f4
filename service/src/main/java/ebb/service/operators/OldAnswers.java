package ebb.service.operators;

import ebb.store.Database;
import ebb.store.operators.Answered;
import java.time.Duration;
import java.time.Instant;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Forgets what was answered long ago: nobody sends that again, and people are named in it. */
@Component
final class OldAnswers {
  private static final int AT_ONCE = 1_000;
  private static final Duration KEPT = Duration.ofDays(7);

  private final Database database;
  private final Answered answered;

  OldAnswers(Database database, Answered answered) {
    this.database = database;
    this.answered = answered;
  }

  @Scheduled(fixedDelayString = "PT1H", initialDelayString = "PT1M")
  void forget() {
    var before = Instant.now().minus(KEPT);
    while (database.write(session -> answered.forget(session, before, AT_ONCE)) >= AT_ONCE) {
      // The next part.
    }
  }
}
