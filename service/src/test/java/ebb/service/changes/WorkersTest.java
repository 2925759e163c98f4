package ebb.service.changes;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.settings.Settings;
import java.time.Duration;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Workers of their own, which claim nothing while all work is stopped. */
public class WorkersTest {
  private static final String HOUSE = "mail-house";
  private static final Duration LONGEST_END = Duration.ofSeconds(10);

  private Workers workers;

  @BeforeClass
  void begin() {
    InProcess.client().done("execution", "stop", "--why=a trial");
    workers =
        new Workers(
            InProcess.bean(Database.class),
            InProcess.bean(Applications.class),
            InProcess.bean(Connections.class),
            InProcess.bean(StoreQueue.class),
            InProcess.bean(Brake.class),
            InProcess.bean(Settings.class));
  }

  @AfterClass(alwaysRun = true)
  void end() throws Exception {
    workers.stop();
    InProcess.client().done("execution", "go-on");
  }

  /** An edit may be seen before it is told: the one then told to end is the successor. */
  @Test
  public void anEditThatIsToldLateLeavesNoApplicationWithoutAWorker() throws Exception {
    workers.watch();
    var first = atWork();
    assertThat(first).hasSize(1);

    workers.edited(new Connections.Edited(HOUSE));
    assertThat(first.getFirst().join(LONGEST_END)).as("it ends").isTrue();
    workers.watch();

    assertThat(atWork()).as("another one, with no further edit").hasSize(1);
  }

  private static List<Thread> atWork() {
    return Thread.getAllStackTraces().keySet().stream()
        .filter(thread -> thread.getName().equals("worker-" + HOUSE))
        .toList();
  }
}
