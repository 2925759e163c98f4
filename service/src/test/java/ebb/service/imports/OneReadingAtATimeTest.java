package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import ebb.service.turns.OneAtATime;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A file is read while nothing else reads or writes what its source knows. */
public class OneReadingAtATimeTest {
  private static final int MOST_LOOKS = 2_000;

  private Path folder;

  @BeforeClass
  void putSource() throws IOException {
    folder = Files.createDirectories(InProcess.stage().home().resolve("one-reading"));
    var columns =
        """
        {"rank": 30, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Kind": "userType"}}
        """;
    for (var source : new String[] {"turn", "turn-2"}) {
      InProcess.client()
          .done(
              "sources",
              "put",
              source,
              Files.writeString(folder.resolve("source.json"), columns).toString());
    }
  }

  private Path file(String name, String prefix, int people) throws IOException {
    var text = new StringBuilder("No,Family,Given,Kind\n");
    for (int i = 0; i < people; i++) {
      text.append("%s-%d,%s,%s,guest\n".formatted(prefix, i, word(prefix, i), word(prefix, ~i)));
    }
    return Files.writeString(folder.resolve(name), text);
  }

  private static String word(String prefix, int number) {
    var random = new Random(prefix.hashCode() * 31L + number);
    var letters = new StringBuilder("T");
    for (int i = 0; i < 9; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private static JsonNode bring(Path file, String source) {
    return InProcess.client().json("imports", "add", file.toString(), "--source=" + source);
  }

  private static void awaitState(long set, String state) throws InterruptedException {
    for (int look = 0; look < MOST_LOOKS; look++) {
      if (show(set).path("state").asString().equals(state)) {
        return;
      }
      Thread.sleep(2);
    }
    throw new AssertionError(show(set).toString());
  }

  private static JsonNode show(long set) {
    return InProcess.client().json("changes", "show", Long.toString(set));
  }

  @Test
  public void whateverWaitsSaysForWhatAndOtherSourcesDoNotWait() throws Exception {
    var set = bring(file("some.csv", "B", 5), "turn").path("changeSet").asLong();
    var next = file("next.csv", "C", 5);
    var other = file("other.csv", "D", 5);
    var desk = InProcess.bean(ImportDesk.class);
    var turns = InProcess.bean(OneAtATime.class);

    var both =
        turns.alone(
            OneAtATime.ofSource("turn"),
            "the reading of yesterday.csv (import 7)",
            _ -> {},
            () -> {
              var reading = CompletableFuture.supplyAsync(() -> bring(next, "turn"));
              var releasing =
                  CompletableFuture.runAsync(
                      () -> InProcess.client().done("changes", "release", "" + set, "--no-wait"));
              awaitState(set, "releasing");
              assertThat(awaitProgress(set))
                  .isEqualTo("waiting for the reading of yesterday.csv (import 7)");
              assertThat(bring(other, "turn-2").at("/counts/new").asInt()).isEqualTo(5);
              assertThat(reading).isNotDone();
              assertThat(desk.running(null)).containsEntry("imports", 1L);
              return CompletableFuture.allOf(releasing, reading).thenApply(_ -> reading.join());
            });

    assertThat(both.get(1, TimeUnit.MINUTES).at("/counts/new").asInt()).isEqualTo(5);
    awaitState(set, "released");
  }

  private static String awaitProgress(long set) throws InterruptedException {
    for (int look = 0; look < MOST_LOOKS; look++) {
      var doing = show(set).at("/progress/doing").asString("");
      if (doing.startsWith("waiting")) {
        return doing;
      }
      Thread.sleep(2);
    }
    throw new AssertionError(show(set).toString());
  }
}
