package ebb.service.changes;

import ebb.core.application.Application;
import ebb.core.execution.Delays;
import ebb.core.execution.Worker;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ThreadLocalRandom;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** One worker per application, so that a slow one delays no other. */
@Component
final class Workers {
  private static final Logger LOG = LoggerFactory.getLogger(Workers.class);
  private static final Duration IDLE = Duration.ofMillis(50);
  private static final Duration AFTER_A_FAULT = Duration.ofSeconds(2);
  private static final Duration STOPPING = Duration.ofSeconds(8);

  /** A second at first, five minutes at most: an outage of an hour costs some twenty tries. */
  private static final Delays DELAYS =
      new Delays(
          Duration.ofSeconds(1),
          Duration.ofMinutes(5),
          () -> ThreadLocalRandom.current().nextDouble());

  private record Running(long version, Thread thread) {}

  private final Database database;
  private final Applications applications;
  private final Connections connections;
  private final StoreQueue queue;
  private final Map<String, Running> running = new HashMap<>();
  private volatile boolean stopping;

  Workers(Database database, Applications applications, Connections connections, StoreQueue queue) {
    this.database = database;
    this.applications = applications;
    this.connections = connections;
    this.queue = queue;
  }

  /** Starts workers for new applications, and new ones where settings were edited. */
  @Scheduled(fixedDelay = 200)
  synchronized void watch() {
    for (var application : database.read(applications::list)) {
      var now = running.get(application.name());
      if (!stopping && (now == null || now.version() != application.version())) {
        if (now != null) {
          now.thread().interrupt();
        }
        running.put(application.name(), start(application));
      }
    }
  }

  private Running start(Application application) {
    var worker =
        new Worker(
            application.name(),
            () -> connections.to(application.name()),
            queue,
            DELAYS,
            InstantSource.system(),
            connections.callsAtOnce(application.name()));
    var thread =
        Thread.ofPlatform()
            .name("worker-" + application.name())
            .daemon()
            .start(() -> work(application.name(), worker));
    return new Running(application.version(), thread);
  }

  private void work(String application, Worker worker) {
    try {
      while (!stopping && !Thread.currentThread().isInterrupted()) {
        oneRound(application, worker);
      }
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
    }
  }

  private static void oneRound(String application, Worker worker) throws InterruptedException {
    try {
      if (worker.round() == 0) {
        Thread.sleep(IDLE);
      }
    } catch (RuntimeException e) {
      // Leases of what was claimed run out; it is then looked up before anything is sent again.
      LOG.error("The worker of {} met a fault and goes on in {}", application, AFTER_A_FAULT, e);
      Thread.sleep(AFTER_A_FAULT);
    }
  }

  @PreDestroy
  void stop() throws InterruptedException {
    stopping = true;
    for (var one : running.values()) {
      one.thread().join(STOPPING);
    }
  }
}
