package ebb.bench;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** How long it takes until a program does what it is for. */
final class Starting {
  private static final Duration LONGEST = Duration.ofMinutes(2);

  /** bin/ebb server until it is healthy, against the same starters as a plain jar. */
  static Measured service(Path root, Path folder, String java, Trial trial) throws Exception {
    var jar = root.resolve("bench/target/ebb-bench-0.1.0-boot.jar").toString();
    var ebb = root.resolve("bin/ebb").toString();
    var took =
        trial.medians(
            "start-service",
            (number, _) ->
                new double[] {
                  untilHealthy(
                      List.of(ebb, "server", "--ebb.home=" + folder.resolve("home" + number))),
                  untilHealthy(
                      List.of(
                          java,
                          "-jar",
                          jar,
                          "--spring.datasource.url=jdbc:h2:file:"
                              + folder.resolve("bare" + number)))
                });
    return new Measured("start-service", took[0], took[1], 1, "s", trial.pairs());
  }

  private static double untilHealthy(List<String> command)
      throws IOException, InterruptedException {
    int port;
    try (var socket = new ServerSocket(0)) {
      port = socket.getLocalPort();
    }
    var all = new ArrayList<>(command);
    all.add("--server.port=" + port);
    var begin = System.nanoTime();
    var process =
        new ProcessBuilder(all)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    try (var client = HttpClient.newHttpClient()) {
      var health =
          HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/actuator/health"))
              .timeout(Duration.ofSeconds(2))
              .build();
      while (!isHealthy(client, health)) {
        if (System.nanoTime() - begin > LONGEST.toNanos() || !process.isAlive()) {
          throw new IllegalStateException("It did not start: " + all);
        }
        Thread.sleep(20);
      }
      return (System.nanoTime() - begin) / 1e9;
    } finally {
      process.destroy();
      process.waitFor();
    }
  }

  private static boolean isHealthy(HttpClient client, HttpRequest health)
      throws InterruptedException {
    try {
      return client.send(health, BodyHandlers.discarding()).statusCode() == 200;
    } catch (IOException _) {
      return false;
    }
  }

  /** bin/ebb --version, against a class that prints one line. */
  static Measured client(Path root, String java, Trial trial) throws Exception {
    var ebb = List.of(root.resolve("bin/ebb").toString(), "--version");
    var line =
        List.of(java, "-cp", root.resolve("bench/target/classes").toString(), "ebb.bench.OneLine");
    var took =
        trial.medians("start-client", (_, _) -> new double[] {untilEnd(ebb), untilEnd(line)});
    return new Measured("start-client", took[0], took[1], 4, "ms", trial.pairs());
  }

  private static double untilEnd(List<String> command) throws IOException, InterruptedException {
    var out = Files.createTempFile("bench", ".out");
    var begin = System.nanoTime();
    var code =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(out.toFile())
            .start()
            .waitFor();
    var took = (System.nanoTime() - begin) / 1e6;
    if (code != 0 || !Files.readString(out).contains("ebb 0.1.0")) {
      throw new IllegalStateException("It failed: " + command + "\n" + Files.readString(out));
    }
    Files.delete(out);
    return took;
  }

  private Starting() {}
}
