package ebb.service.changes;

import ebb.core.application.Application;
import ebb.core.execution.Delays;
import ebb.core.execution.Result;
import ebb.core.execution.Standing;
import ebb.core.execution.Worker;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.settings.Settings;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ThreadLocalRandom;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
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

  /** A worker and its thread; one that retires claims no more, and ends when all is recorded. */
  private static final class Running {
    private final long version;
    private final Worker worker;
    private volatile boolean claims;
    private double noted;
    private volatile boolean retires;

    Running(long version, Worker worker) {
      this.version = version;
      this.worker = worker;
    }

    boolean goesOn() {
      return !retires || worker.standing().underWay() > 0;
    }
  }

  private static final Duration BETWEEN_NOTES = Duration.ofSeconds(30);
  private static final String SECONDS_EACH = "execution.seconds-each.";

  private final Database database;
  private final Settings settings;
  private final Applications applications;
  private final Connections connections;
  private final StoreQueue queue;
  private final Brake brake;
  private final Map<String, Running> running = new ConcurrentHashMap<>();
  private final List<Thread> threads = new ArrayList<>();
  private boolean stopping;
  private Instant notedAt = Instant.EPOCH;

  Workers(
      Database database,
      Applications applications,
      Connections connections,
      StoreQueue queue,
      Brake brake,
      Settings settings) {
    this.settings = settings;
    this.brake = brake;
    this.database = database;
    this.applications = applications;
    this.connections = connections;
    this.queue = queue;
  }

  /** Starts workers for new applications, and new ones where settings were edited. */
  @Scheduled(fixedDelay = 200)
  synchronized void watch() {
    if (stopping) {
      return;
    }
    var all = database.read(applications::list);
    connections.follow(all);
    var isStopped = database.read(brake::stopped).isPresent();
    for (var application : all) {
      var now = running.get(application.name());
      if (now == null || now.retires || now.version != application.version()) {
        if (now != null) {
          now.retires = true;
        }
        now = start(application);
        running.put(application.name(), now);
      }
      now.claims = !isStopped && application.pause() == null;
    }
    threads.removeIf(thread -> !thread.isAlive());
    noteTimes();
  }

  /**
   * A worker goes by the settings it was started with. Before an edit is answered, the one that
   * goes by the old ones claims no more; the next watch starts its successor.
   */
  @EventListener
  synchronized void edited(Connections.Edited edit) {
    var old = running.get(edit.application());
    if (old != null) {
      old.retires = true;
    }
  }

  /** Before a pause is answered; the next watch would see it, too. */
  @EventListener
  synchronized void paused(Connections.Paused pause) {
    var worker = running.get(pause.application());
    if (worker != null) {
      worker.claims = false;
    }
  }

  /** As all were paused at once. */
  synchronized void stopAll() {
    running.values().forEach(worker -> worker.claims = false);
  }

  /** So that the next run can be told how long it will take. */
  private void noteTimes() {
    var now = Instant.now();
    if (now.isAfter(notedAt.plus(BETWEEN_NOTES))) {
      notedAt = now;
      running.forEach(
          (name, one) -> {
            var seconds = one.worker.standing().secondsEach();
            if (seconds != one.noted) {
              one.noted = seconds;
              database.writeForNow(
                  session -> settings.put(session, SECONDS_EACH + name, Double.toString(seconds)));
            }
          });
    }
  }

  /** How the work on each application goes in this process. */
  Map<String, Standing> standings() {
    var standings = new TreeMap<String, Standing>();
    running.forEach((name, one) -> standings.put(name, one.worker.standing()));
    return standings;
  }

  private Running start(Application application) {
    var worker =
        new Worker(
            application.name(),
            () -> connections.to(application.name()),
            queue,
            DELAYS,
            InstantSource.system(),
            connections.bounds(application.name()),
            Workers::unrecorded);
    var one = new Running(application.version(), worker);
    one.noted =
        database
            .read(session -> settings.get(session, SECONDS_EACH + application.name()))
            .map(Double::parseDouble)
            .orElse(0.0);
    worker.expect(one.noted);
    threads.add(
        Thread.ofPlatform()
            .name("worker-" + application.name())
            .daemon()
            .start(() -> work(application.name(), one)));
    return one;
  }

  private static void work(String application, Running one) {
    try (var worker = one.worker) {
      while (one.goesOn()) {
        oneRound(application, worker, one.claims && !one.retires);
      }
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
    }
  }

  private static void oneRound(String application, Worker worker, boolean claims)
      throws InterruptedException {
    try {
      if (worker.round(claims) == 0) {
        worker.await(IDLE);
      }
    } catch (RuntimeException e) {
      // Leases of what was claimed run out; it is then looked up before anything is sent again.
      LOG.error("The worker of {} met a fault and goes on in {}", application, AFTER_A_FAULT, e);
      Thread.sleep(AFTER_A_FAULT);
    }
  }

  private static void unrecorded(List<Result> results, RuntimeException why) {
    LOG.error(
        "What became of changes {} cannot be recorded; they are looked up when their lease ends",
        results.stream().map(result -> result.change().id()).toList(),
        why);
  }

  @PreDestroy
  void stop() throws InterruptedException {
    synchronized (this) {
      stopping = true;
      running.values().forEach(one -> one.retires = true);
    }
    var end = Instant.now().plus(STOPPING);
    for (var thread : List.copyOf(threads)) {
      thread.join(Duration.ofMillis(Math.max(1, Duration.between(Instant.now(), end).toMillis())));
    }
  }
}
