package ebb.service.now;

import ebb.api.WorkView;
import ebb.core.operator.Act;
import ebb.service.web.Allowed;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import java.util.List;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** One complete count of the work in progress, cheap enough to be asked many times a second. */
@RestController
@RequestMapping("/api/v1/work")
class WorkController {
  private final Database database;
  private final List<RunningWork> features;

  WorkController(Database database, List<RunningWork> features) {
    this.database = database;
    this.features = features;
  }

  @Allowed(Act.SEE)
  @GetMapping
  WorkView work() {
    var kinds = new TreeMap<String, Long>();
    database.read(
        session -> {
          for (var feature : features) {
            feature.running(session).forEach((kind, count) -> kinds.merge(kind, count, Long::sum));
          }
          return kinds;
        });
    kinds.values().removeIf(count -> count == 0);
    return new WorkView(kinds.values().stream().mapToLong(Long::longValue).sum(), kinds);
  }
}
