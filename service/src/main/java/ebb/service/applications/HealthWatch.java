package ebb.service.applications;

import ebb.core.application.Application;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import java.util.concurrent.Executors;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Looks at each application every few minutes, so that nobody finds out by a failure. */
@Component
final class HealthWatch {
  private final Database database;
  private final Applications applications;
  private final Connections connections;

  HealthWatch(Database database, Applications applications, Connections connections) {
    this.database = database;
    this.applications = applications;
    this.connections = connections;
  }

  @Scheduled(fixedDelayString = "${ebb.health-every:PT5M}", initialDelayString = "PT20S")
  void look() {
    var names = database.read(applications::list).stream().map(Application::name).toList();
    try (var looks = Executors.newVirtualThreadPerTaskExecutor()) {
      names.forEach(name -> looks.execute(() -> connections.check(name)));
    }
  }
}
