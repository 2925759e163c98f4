package ebb.service.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import ebb.connectors.feed.Folder;
import ebb.core.feed.Feed;
import ebb.core.feed.FeedRun;
import ebb.core.feed.FeedRun.Outcome;
import ebb.service.InProcess;
import ebb.store.Database;
import ebb.store.feeds.Feeds;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Deliveries of a standing source: taken once each, read, and let through within the guard. */
public class FeedRunnerTest {
  private static final int CREW = 30;
  private static final int MOST_LOOKS = 1_000;
  private static int sources;

  private FeedRunner runner;
  private Feeds feeds;
  private Database database;
  private String source;
  private Path folder;
  private Folder watched;

  @BeforeClass
  void begin() {
    runner = InProcess.bean(FeedRunner.class);
    feeds = InProcess.bean(Feeds.class);
    database = InProcess.bean(Database.class);
  }

  @BeforeMethod
  void putAFeed() throws IOException {
    source = "rota-" + ++sources;
    folder = Files.createDirectories(InProcess.stage().home().resolve(source).resolve("in"));
    var columns =
        """
        {"rank": 40, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Job": "title", "Kind": "userType"}}
        """;
    var file = Files.writeString(folder.resolveSibling("source.json"), columns);
    InProcess.client().done("sources", "put", source, file.toString());
    InProcess.client()
        .done("feeds", "put", source, "--kind=folder", "--set=path=" + folder, "--complete");
    InProcess.client().done("feeds", "on", source);
    watched = new Folder(feed().origin());
  }

  private Feed feed() {
    return database.read(session -> feeds.get(session, source)).orElseThrow();
  }

  /** A list of all, with other jobs for the first few. */
  private String crew(int people, int promoted) {
    var text = new StringBuilder("No,Family,Given,Job,Kind\n");
    for (int i = 0; i < people; i++) {
      text.append(
          "%s-%d,%s,%s,%s,contractor\n"
              .formatted(source, i, word(i), word(~i), i < promoted ? "Bosun" : "Mate"));
    }
    return text.toString();
  }

  private String word(int number) {
    var random = new Random(source.hashCode() * 31L + number);
    var letters = new StringBuilder("F");
    for (int i = 0; i < 9; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private void deliver(String name, String text) throws IOException {
    Files.writeString(folder.resolve(name), text);
  }

  /** As two looks of the watch would, after which a file is known to be whole. */
  private FeedRun taken() {
    for (int i = 0; i < 2; i++) {
      runner.take(feed(), watched, FeedRunner.Why.DELIVERY);
    }
    return last();
  }

  private FeedRun taken(String name, String text) throws IOException {
    deliver(name, text);
    return taken();
  }

  private FeedRun last() {
    return database.read(session -> feeds.last(session, source)).orElseThrow();
  }

  private List<FeedRun> runs() {
    return database.read(session -> feeds.runs(session, source, null, 100)).items();
  }

  private List<String> names(String kind) throws IOException {
    var there = folder.resolve(kind);
    if (Files.notExists(there)) {
      return List.of();
    }
    try (var files = Files.list(there)) {
      return files.map(file -> file.getFileName().toString()).toList();
    }
  }

  private long known() {
    return InProcess.client()
        .json("people", "list", "--filter=name.familyName eq \"%s\"".formatted(word(0)))
        .path("items")
        .size();
  }

  private String set(FeedRun run) {
    return InProcess.client()
        .json("imports", "show", Long.toString(run.made()))
        .path("changeSet")
        .asString();
  }

  private String state(FeedRun run) {
    return InProcess.client().json("changes", "show", set(run)).path("state").asString();
  }

  @Test
  public void aDeliveryIsTakenOnceReadLetThroughAndPutAway() throws Exception {
    deliver("day.csv", crew(CREW, 0));
    runner.take(feed(), watched, FeedRunner.Why.DELIVERY);
    assertThat(runs()).as("nobody knows yet whether it is whole").isEmpty();

    var run = taken();
    taken();

    assertThat(run.outcome()).isEqualTo(Outcome.DONE);
    assertThat(runs()).hasSize(1);
    assertThat(state(run)).isEqualTo("released");
    assertThat(known()).isEqualTo(1);
    assertThat(names("archive")).singleElement().asString().endsWith("day.csv");
    assertThat(names("taken")).isEmpty();
  }

  @Test
  public void anUnchangedDayIsNothingNewAndAChangedOneIsLetThrough() throws Exception {
    assertThat(taken("one.csv", crew(CREW, 0)).outcome()).isEqualTo(Outcome.DONE);
    assertThat(taken("two.csv", crew(CREW, 0)).outcome()).isEqualTo(Outcome.NOTHING_NEW);

    var third = taken("three.csv", crew(CREW, 2));

    assertThat(third.outcome()).isEqualTo(Outcome.DONE);
    assertThat(
            InProcess.client()
                .json("imports", "show", Long.toString(third.made()))
                .at("/counts/changed")
                .asLong())
        .isEqualTo(2);
  }

  @Test
  public void whatTheGuardStopsWaitsForSomebodyAndAGoodDeliveryEndsTheTrouble() throws Exception {
    taken("one.csv", crew(CREW, 0));

    var half = taken("half.csv", crew(CREW / 3, 0));
    assertThat(half.outcome()).isEqualTo(Outcome.STOPPED);
    assertThat(half.problem().code()).isEqualTo("guard-file-too-short");
    assertThat(state(half)).isEqualTo("shown");
    assertThat(InProcess.client().done("now")).contains("Feed %s needs a look".formatted(source));

    assertThat(taken("whole.csv", crew(CREW, 1)).outcome()).isEqualTo(Outcome.DONE);
    assertThat(InProcess.client().done("now"))
        .doesNotContain("Feed %s needs a look".formatted(source));
  }

  @Test
  public void whatCannotBeReadIsPutAsideWithTheReasonAndTheNextIsTaken() throws Exception {
    deliver("a-bad.csv", "No,Family,Given,Job,Kind\n");
    deliver("b-good.csv", crew(CREW, 0));

    taken();

    assertThat(runs())
        .extracting(FeedRun::outcome)
        .as("the newest first")
        .containsExactly(Outcome.DONE, Outcome.FAILED);
    assertThat(names("quarantine")).anyMatch(name -> name.endsWith("a-bad.csv.why.txt"));
    assertThat(names("archive")).singleElement().asString().endsWith("b-good.csv");
  }

  @Test
  public void aFileThatGrowsIsNotTakenBeforeItStandsStill() throws Exception {
    var text = crew(CREW, 0);
    for (int part = 1; part < 4; part++) {
      deliver("slow.csv", text.substring(0, text.length() * part / 4));
      runner.take(feed(), watched, FeedRunner.Why.DELIVERY);
    }
    assertThat(runs()).isEmpty();

    deliver("slow.csv", text);
    assertThat(taken().outcome()).isEqualTo(Outcome.DONE);
    assertThat(runs()).hasSize(1);
  }

  @Test
  public void manyWhoLookAtOnceTakeEachDeliveryOnce() throws Exception {
    for (int day = 0; day < 4; day++) {
      var name = "day-%d.csv".formatted(day);
      deliver(name, crew(CREW, day));
      Files.setLastModifiedTime(
          folder.resolve(name), FileTime.from(Instant.now().minusSeconds(60 - day)));
    }
    watched.ready();
    var looks = new ArrayList<Callable<Void>>();
    for (int i = 0; i < 12; i++) {
      looks.add(
          () -> {
            runner.take(feed(), watched, FeedRunner.Why.DELIVERY);
            return null;
          });
    }

    try (var threads = Executors.newFixedThreadPool(4)) {
      for (var done : threads.invokeAll(looks)) {
        done.get();
      }
    }
    taken();

    assertThat(runs())
        .as(runs().toString())
        .hasSize(4)
        .extracting(FeedRun::outcome)
        .containsOnly(Outcome.DONE);
    assertThat(names("archive")).hasSize(4);
  }

  @Test
  public void aTestLetsNothingThroughAndTakesNothingAway() throws Exception {
    deliver("day.csv", crew(CREW, 0));

    var first = runner.test(source, "somebody");
    var second = runner.test(source, "somebody");

    assertThat(state(first.changeSet())).as("given up for the next one").isEqualTo("discarded");
    assertThat(state(second.changeSet())).isEqualTo("shown");
    assertThat(folder.resolve("day.csv")).exists();
    assertThat(runs()).isEmpty();
    runner.forgetTest(source, "somebody");
    assertThat(state(second.changeSet())).isEqualTo("discarded");
    assertThat(known()).isZero();
  }

  private static String state(long set) {
    return InProcess.client().json("changes", "show", Long.toString(set)).path("state").asString();
  }

  @Test
  public void whatACrashLeftTakenIsReadAfterwardsAndTheLookThatBrokeOffIsEnded() throws Exception {
    deliver("day.csv", crew(CREW, 0));
    watched.ready();
    watched.take(watched.ready().getFirst());
    brokenOff(null, null);

    runner.resume();
    awaitNone(Outcome.RUNNING);
    taken();

    assertThat(runs()).extracting(FeedRun::outcome).containsExactly(Outcome.DONE, Outcome.FAILED);
    assertThat(runs().getLast().problem().code()).isEqualTo("feed-run-broke-off");
    assertThat(names("archive")).hasSize(1);
  }

  /** The crash came when all was let through, and before that was written down. */
  @Test
  public void aDeliveryThatWasLetThroughBeforeACrashDoesNotComeInTwice() throws Exception {
    var run = taken("day.csv", crew(CREW, 0));
    var archived = folder.resolve("archive").resolve(names("archive").getFirst());
    Files.move(archived, folder.resolve("taken").resolve("day.csv"));
    brokenOff("day.csv", run.made());

    runner.resume();
    awaitNone(Outcome.RUNNING);
    taken();

    assertThat(runs()).hasSize(2).extracting(FeedRun::outcome).containsOnly(Outcome.DONE);
    assertThat(runs()).extracting(FeedRun::made).containsOnly(run.made());
    assertThat(names("taken")).isEmpty();
    assertThat(names("archive")).hasSize(1);
  }

  private void brokenOff(String file, Long made) {
    database.writeAll(
        session ->
            feeds.put(
                session,
                new FeedRun(
                    feeds.number(session),
                    source,
                    FeedRun.Cause.DELIVERY,
                    Outcome.RUNNING,
                    file,
                    made,
                    null,
                    "ebb",
                    Instant.now(),
                    null)));
  }

  /** It is taken up in a thread of its own. */
  private void awaitNone(Outcome outcome) throws InterruptedException {
    for (int look = 0; look < MOST_LOOKS; look++) {
      if (runs().stream().noneMatch(run -> run.outcome() == outcome)
          && !runner.isLookedAt(source)) {
        return;
      }
      Thread.sleep(5);
    }
    throw new AssertionError(runs());
  }

  @Test
  public void whatFailsInPassingIsTriedAgainAndWhatIsTheSameAsBeforeIsNothingNew()
      throws Exception {
    var status = new AtomicInteger(503);
    var body = new AtomicReference<>(crew(CREW, 0));
    var server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/people.csv",
        exchange -> {
          try (exchange) {
            var bytes = body.get().getBytes(StandardCharsets.UTF_8);
            exchange.getResponseHeaders().add("Content-Type", "text/csv");
            exchange.sendResponseHeaders(status.get(), bytes.length);
            exchange.getResponseBody().write(bytes);
          }
        });
    server.start();
    try {
      InProcess.client()
          .done(
              "feeds",
              "put",
              source,
              "--kind=http",
              "--set=address=http://127.0.0.1:%d/people.csv"
                  .formatted(server.getAddress().getPort()),
              "--complete");
      InProcess.client().done("feeds", "on", source);

      assertThat(runner.pull(source, FeedRunner.Why.TIMETABLE)).as("is tried again").isTrue();
      assertThat(last().outcome()).isEqualTo(Outcome.FAILED);

      status.set(200);
      assertThat(runner.pull(source, FeedRunner.Why.TIMETABLE)).isFalse();
      assertThat(last().outcome()).isEqualTo(Outcome.DONE);
      assertThat(runner.pull(source, FeedRunner.Why.TIMETABLE)).isFalse();
      assertThat(last().outcome()).isEqualTo(Outcome.NOTHING_NEW);

      status.set(404);
      assertThat(runner.pull(source, FeedRunner.Why.TIMETABLE))
          .as("it would be missing in a minute, too")
          .isFalse();
      assertThat(last().outcome()).isEqualTo(Outcome.FAILED);
    } finally {
      server.stop(0);
    }
  }

  @Test
  public void whatDidNotComeIsSaidOnceHoweverOftenItIsLookedFor() {
    var expected = Instant.parse("2027-03-01T05:00:00Z");

    runner.late(feed(), expected);
    runner.late(feed(), expected);

    assertThat(last().outcome()).isEqualTo(Outcome.LATE);
    assertThat(InProcess.client().done("now"))
        .contains("The delivery of %s expected on 1 March 2027".formatted(source))
        .containsOnlyOnce("Feed %s needs a look".formatted(source));
  }
}
