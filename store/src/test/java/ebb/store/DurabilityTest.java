package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.store.settings.Settings;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executors;
import org.testng.annotations.Test;

/** The first promise: after kill -9, nothing that was answered is lost. */
public class DurabilityTest {
  private static final int KILLS = Integer.getInteger("durability.kills", 2);

  @Test
  public void nothingThatWasAnsweredIsLostByAKill() throws Exception {
    var folder = Files.createDirectories(Path.of("target/durability"));
    var random = Chance.random(9);
    for (int kill = 0; kill < KILLS; kill++) {
      var file = Files.createTempDirectory(folder, "db").resolve("ebb").toAbsolutePath();
      var answered = writeUntilKilled(file, 300 + random.nextInt(700));

      assertThat(answered).as("the writer got somewhere").isNotEmpty();
      assertThat(kept(file, answered)).as("kill %d", kill).isEqualTo(answered.size());
    }
  }

  private static List<String> writeUntilKilled(Path file, int millis) throws Exception {
    var process =
        new ProcessBuilder(
                ProcessHandle.current().info().command().orElseThrow(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                Writer.class.getName(),
                file.toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    var answered = new ArrayList<String>();
    try (var lines =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      answered.add(lines.readLine());
      Thread.ofVirtual().start(() -> killAfter(process, millis));
      for (var line = lines.readLine(); line != null; line = lines.readLine()) {
        answered.add(line);
      }
    } catch (IOException _) {
      // The pipe broke with the process.
    }
    process.waitFor();
    return answered.stream()
        .filter(line -> line != null && line.matches("key-\\d+-\\d+!"))
        .toList();
  }

  private static void killAfter(Process process, int millis) {
    try {
      Thread.sleep(millis);
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
    }
    process.destroyForcibly();
  }

  private static long kept(Path file, List<String> answered) {
    var settings = new Settings();
    try (var database = TestDatabase.open("jdbc:h2:file:" + file)) {
      return database.read(
          session ->
              answered.stream()
                  .filter(key -> settings.get(session, key.replace("!", "")).isPresent())
                  .count());
    }
  }

  /** Writes from four threads, and says what was answered. */
  public static final class Writer {
    public static void main(String[] arguments) throws Exception {
      var settings = new Settings();
      var database = TestDatabase.open("jdbc:h2:file:" + arguments[0]);
      try (var threads = Executors.newFixedThreadPool(4)) {
        for (int thread = 0; thread < 4; thread++) {
          int number = thread;
          threads.submit(
              () -> {
                for (int i = 0; ; i++) {
                  var key = "key-" + number + "-" + i;
                  database.writeAll(session -> settings.put(session, key, "value"));
                  System.out.println(key + "!");
                }
              });
        }
      }
    }
  }
}
