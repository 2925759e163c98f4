package ebb.service.changes;

import ebb.core.execution.Delays;
import ebb.core.execution.Worker;
import ebb.service.InProcess;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import java.time.Duration;
import java.time.InstantSource;

/** Carries out what is queued, as the workers of a running service would. */
public final class Carrying {
  private static final Duration IDLE = Duration.ofMillis(5);
  private static final Delays DELAYS =
      new Delays(Duration.ofSeconds(1), Duration.ofMinutes(5), () -> 0.5);

  /** Until nothing is due in any application; what is to be tried later waits. */
  public static void out() throws InterruptedException {
    for (var application :
        InProcess.bean(Database.class).read(InProcess.bean(Applications.class)::list)) {
      out(application.name());
    }
  }

  private static void out(String application) throws InterruptedException {
    var connections = InProcess.bean(Connections.class);
    try (var worker =
        new Worker(
            application,
            () -> connections.to(application),
            InProcess.bean(StoreQueue.class),
            DELAYS,
            InstantSource.system(),
            connections.bounds(application),
            (_, why) -> {
              throw why;
            })) {
      while (worker.round(true) > 0 || worker.standing().underWay() > 0) {
        worker.await(IDLE);
      }
    }
  }

  private Carrying() {}
}
