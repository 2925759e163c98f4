package ebb.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;

/**
 * The example. With --once all of it runs and ends; without, day one is shown and waits for its
 * release, until Ctrl-C.
 */
public final class Main {
  public static void main(String[] arguments) throws Exception {
    var serviceJar = Path.of(arguments[0]);
    if (Arrays.asList(arguments).contains("--once")) {
      System.exit(once(serviceJar) ? 0 : 1);
    }
    stay(serviceJar);
  }

  private static boolean once(Path serviceJar) throws Exception {
    var home = Files.createTempDirectory("ebb-demo-");
    System.out.println(
        "Skerrow Ferries, two days and six weeks. Starting the service and the stand-ins …");
    boolean allTrue;
    try (var stage = new Stage(home, service(serviceJar), 0)) {
      allTrue = Scenario.run(stage, System.out);
    }
    if (allTrue) {
      delete(home);
    } else {
      System.out.println("The data and the log of the service are kept in " + home);
    }
    return allTrue;
  }

  private static void stay(Path serviceJar) throws Exception {
    var home = Files.createTempDirectory("ebb-demo-");
    var port = Integer.parseInt(System.getenv().getOrDefault("EBB_PORT", "8440"));
    var stage = new Stage(home, service(serviceJar), port);
    Runtime.getRuntime().addShutdownHook(new Thread(() -> close(stage, home)));
    Scenario.showDayOne(stage, System.out);
    System.out.printf(
        """

        The console is at %1$s
        Sign in as        %2$s
        with the password %3$s

        Day one is shown, and waits for its release. In another terminal the client does the same:

          export EBB_URL=%1$s EBB_TOKEN=%4$s
          bin/ebb now

        Ctrl-C stops all of it.
        """,
        stage.url(), Stage.OPERATOR, Stage.PASSWORD, stage.token());
    Thread.currentThread().join();
  }

  private static ServiceHost service(Path jar) {
    return new ServiceProcess(jar, ServiceProcess.SHORT_LIVED);
  }

  private static void close(Stage stage, Path home) {
    try {
      stage.close();
      delete(home);
    } catch (Exception e) {
      System.err.println("Could not stop cleanly: " + e);
    }
  }

  private static void delete(Path home) throws IOException {
    try (var files = Files.walk(home)) {
      for (var file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(file);
      }
    }
  }

  private Main() {}
}
