package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.problem.Refusal;
import ebb.service.connections.SettingsCheck;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.applications.SyncRun;
import ebb.store.applications.SyncRuns;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.Executors;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Reads applications as often as their settings say. */
@Component
final class SyncSchedule implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(SyncSchedule.class);
  private static final String BY_ITSELF = "ebb";

  private final Database database;
  private final Applications applications;
  private final SyncRuns runs;
  private final Syncs syncs;
  private final BusinessClock clock;

  SyncSchedule(
      Database database,
      Applications applications,
      SyncRuns runs,
      Syncs syncs,
      BusinessClock clock) {
    this.database = database;
    this.applications = applications;
    this.runs = runs;
    this.syncs = syncs;
    this.clock = clock;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return syncs.running(session);
  }

  @Scheduled(fixedDelayString = "${ebb.syncs-looked-at-every:PT10S}", initialDelayString = "PT20S")
  void look() {
    var due = database.read(applications::list).stream().filter(this::isDue).toList();
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      due.forEach(application -> threads.execute(() -> sync(application)));
    }
  }

  /** What was done since, and accounts that came, are looked at while people work. */
  @Scheduled(
      fixedDelayString = "${ebb.findings-looked-at-every:PT1S}",
      initialDelayString = "${ebb.background-begins-after:PT5S}")
  void lookAgain() {
    for (var application : database.read(applications::list)) {
      if (!syncs.isGoing(application.name())) {
        syncs.lookAgain(application.name());
        syncs.place(application);
      }
    }
  }

  private boolean isDue(Application application) {
    var every = application.settings().get(SettingsCheck.SYNC_EVERY);
    return every != null
        && !syncs.isGoing(application.name())
        && lastOf(application.name())
            .plus(Duration.ofMinutes(Long.parseLong(every)))
            .isBefore(clock.instant());
  }

  private Instant lastOf(String application) {
    return database.read(session -> runs.list(session, application, null, 1)).items().stream()
        .map(SyncRun::begunAt)
        .findFirst()
        .orElse(Instant.EPOCH);
  }

  private void sync(Application application) {
    try {
      syncs.sync(application, false, BY_ITSELF);
    } catch (Refusal e) {
      // It stands in the history and with the application; what is down is looked at again.
      LOG.info("{} was not read: {}", application.name(), e.getMessage());
    }
  }
}
