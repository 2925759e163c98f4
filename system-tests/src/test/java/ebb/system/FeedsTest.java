package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Standing sources: set up, switched on, and what a bad day brings. */
public class FeedsTest {
  private static final String HEADINGS = "Crew no;Family name;Given name;Job;Contract";
  private static final int CREW = 60;

  private Stage stage;
  private Client client;
  private Path folder;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    folder = Files.createDirectories(stage.home().resolve("deliveries"));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void aFeedIsTriedSwitchedOnPulledAtItsTimesAndSaidToBeLate() throws Exception {
    aFeedIsADraftUntilItIsTriedAndSwitchedOn();
    aFeedIsPulledAtItsTimesAndSaidToBeLate();
  }

  private void aFeedIsADraftUntilItIsTriedAndSwitchedOn() throws Exception {
    putFolder("crew", "--complete");
    assertThat(client.run("feeds", "on", "crew").err()).contains("Nobody has said yet what");
    assertThat(client.run("feeds", "test", "crew").err()).contains("nothing to be read now");

    deliver("one.csv", crew(1, CREW));
    var tried = client.json("feeds", "test", "crew", "--expected=60");
    assertThat(tried.at("/questions/0/code").asString()).isEqualTo("columns-to-map");
    client.done(
        "imports",
        "map",
        tried.path("id").asString(),
        "--source=crew",
        "--key=Crew no",
        "--column=Job=title",
        "--column=Contract=userType");
    var other = client.json("feeds", "test", "crew", "--expected=61");
    var set = client.json("changes", "show", other.path("changeSet").asString());
    assertThat(set.at("/stops/0/what").asString())
        .isEqualTo("60 rows were found, and 61 expected.");
    assertThat(folder.resolve("one.csv")).as("a test takes nothing away").exists();
    assertThat(stage.mailHouse().accounts().count()).as("nor makes an account").isZero();

    client.done("feeds", "on", "crew");
    assertThat(client.json("changes", "show", set.path("id").asString()).path("state").asString())
        .as("what was tried is not left for somebody to release by mistake")
        .isEqualTo("discarded");
    var run = awaitRun("crew", 1);
    assertThat(run.path("outcome").asString()).isEqualTo("done");
    assertThat(run.at("/counts/new").asLong()).isEqualTo(CREW);
    client.settle();
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(CREW);
    assertThat(archived()).singleElement().satisfies(name -> assertThat(name).endsWith("one.csv"));

    deliver("two.csv", crew(1, CREW));
    assertThat(awaitRun("crew", 2).path("outcome").asString()).isEqualTo("nothing-new");
    disasters();
  }

  /** Whatever comes: not one account is suspended without somebody's release. */
  private void disasters() throws Exception {
    var whole = crew(1, CREW);
    var yesterdays = whole.replace("Mate 7;", "Bosun;");
    deliver("bosun.csv", yesterdays);
    assertThat(awaitRun("crew", 3).path("outcome").asString()).isEqualTo("done");

    stopped(4, crew(1, 30), "guard-file-too-short");
    failed(5, HEADINGS + "\n", "failed", "file-without-rows");
    stopped(6, yesterdays + body(1, CREW), "guard-keys-doubled");
    stopped(
        7,
        yesterdays.replaceAll("(?m)^(\\d+);([^;]*);([^;]*);([^;]*);", "$1;$3;$4;$2;"),
        "guard-column-shifted");
    stopped(8, whole, "guard-file-seen-before");
    stopped(9, crew(5_001, CREW), "guard-strangers");
    deliver("wrong.csv", yesterdays, StandardCharsets.UTF_16LE, "windows-1252");
    var wrong = awaitRun("crew", 10);
    assertThat(wrong.path("outcome").asString()).isEqualTo("failed");
    failed(11, "<html><body>Sign in</body></html>", "failed", "column-unknown");

    client.settle();
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(CREW);
    assertThat(suspended()).isZero();
    assertThat(client.done("now")).contains("Feed crew needs a look");
    assertThat(quarantined()).anyMatch(name -> name.endsWith(".why.txt"));

    // A good delivery ends it; one who is missing from it is asked about, not suspended.
    deliver("good.csv", crew(1, CREW - 1).replace("Mate 7;", "Boatswain;"));
    var good = awaitRun("crew", 12);
    assertThat(good.path("outcome").asString()).isEqualTo("done");
    assertThat(good.at("/counts/missing").asLong()).isEqualTo(1);
    client.settle();
    assertThat(suspended()).isZero();
    assertThat(client.done("now")).doesNotContain("Feed crew needs a look");
  }

  private void stopped(int number, String text, String code) throws Exception {
    deliver("disaster-%d.csv".formatted(number), text);
    var run = awaitRun("crew", number);
    assertThat(run.path("outcome").asString()).as(code).isEqualTo("stopped");
    var set = client.json("changes", "show", run.path("changeSet").asString());
    assertThat(codes(set.path("stops"))).contains(code);
  }

  private void failed(int number, String text, String outcome, String code) throws Exception {
    deliver("disaster-%d.csv".formatted(number), text);
    var run = awaitRun("crew", number);
    assertThat(run.path("outcome").asString()).isEqualTo(outcome);
    assertThat(run.at("/problem/code").asString()).isEqualTo(code);
  }

  private void aFeedIsPulledAtItsTimesAndSaidToBeLate() throws Exception {
    var asked = new ArrayList<String>();
    var server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/people",
        exchange -> {
          try (exchange) {
            asked.add(exchange.getRequestHeaders().getFirst("Authorization"));
            var body =
                "[{\"no\":\"a1\",\"family\":\"Holm\",\"given\":\"Ida\",\"kind\":\"contractor\"}]";
            var bytes = body.getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(200, bytes.length);
            exchange.getResponseBody().write(bytes);
          }
        });
    server.start();
    client.done(
        "sources",
        "put",
        "yard",
        file(
            "yard.json",
            """
            {"rank": 50, "key": "no", "columns": {"family": "name.familyName",
             "given": "name.givenName", "kind": "userType"}}
            """));
    client.done(
        "feeds",
        "put",
        "yard",
        "--kind=http",
        "--set=address=http://127.0.0.1:%d/people".formatted(server.getAddress().getPort()),
        "--secret-file=" + file("secret", "pass"),
        "--at=0 30 5 * * *");
    var on = client.json("feeds", "on", "yard");
    assertThat(on.path("nextAt").asString()).isNotEmpty();
    client.done("clock", "--to=" + on.path("nextAt").asString());
    assertThat(awaitRun("yard", 1).path("outcome").asString()).isEqualTo("done");
    assertThat(asked).containsOnly("Bearer pass");

    client.done("feeds", "run", "yard");
    var byHand = awaitRun("yard", 2);
    assertThat(byHand.path("cause").asString()).isEqualTo("hand");
    assertThat(byHand.path("by").asString()).isEqualTo(Stage.OPERATOR);

    client.done("feeds", "pause", "yard");
    assertThat(client.json("feeds", "show", "yard").path("nextAt").isNull()).isTrue();

    putFolder("crew", "--complete", "--at=0 0 5 * * *");
    var runs = runs("crew").size();
    client.done("clock", "--days=2");
    awaitRun("crew", runs + 1);
    assertThat(runs("crew")).anyMatch(run -> run.path("outcome").asString().equals("late"));
    assertThat(client.done("now")).contains("has not come");
    server.stop(0);
  }

  @Test
  public void whatCannotWorkIsSaidAtOnce() {
    var amiss =
        client.run("feeds", "put", "odd", "--kind=folder", "--set=path=x", "--at=each day").err();
    assertThat(amiss).contains("x is no path").contains("each day is no timetable");
    assertThat(client.run("feeds", "put", "hand", "--kind=folder", "--set=path=/x").err())
        .contains("no name for a source");
    assertThat(client.run("feeds", "show", "nothing").exitCode()).isEqualTo(1);
  }

  @Test
  public void aLimitIsSetForOneSourceWithAReason() {
    client.done("limits", "set", "missing", "0.5", "--of=hr", "--reason=the season ends");
    assertThat(client.done("limits", "list")).contains("hr 50%").contains("20%");
    assertThat(client.done("journal", "list")).contains("set limit missing of hr to 50%");
    assertThat(client.run("limits", "set", "missing", "2000000").err()).contains("is no number");
    client.done("limits", "set", "missing", "--of=hr");
    assertThat(client.done("limits", "list")).doesNotContain("hr 50%");
  }

  private void putFolder(String source, String... more) {
    var command =
        new ArrayList<>(
            List.of(
                "feeds",
                "put",
                source,
                "--kind=folder",
                "--set=path=" + folder,
                "--set=names=*.csv"));
    command.addAll(List.of(more));
    client.done(command.toArray(String[]::new));
  }

  private static String crew(int from, int count) {
    return HEADINGS + "\n" + body(from, count);
  }

  private static String body(int from, int count) {
    var text = new StringBuilder();
    for (int i = from; i < from + count; i++) {
      text.append(
          "%04d;Kvåle%s;Ida%s;Mate %d;employee\n".formatted(i, letters(i), letters(i * 7), i));
    }
    return text.toString();
  }

  private static String letters(int number) {
    return Integer.toString(number, 36)
        .chars()
        .mapToObj(sign -> String.valueOf((char) ('a' + Character.digit(sign, 36) % 26)))
        .collect(Collectors.joining());
  }

  private void deliver(String name, String text) throws IOException {
    deliver(name, text, StandardCharsets.UTF_8, null);
  }

  /** As those do who know how: written under another name, and renamed when it is whole. */
  private void deliver(String name, String text, Charset charset, String readAs)
      throws IOException {
    var bytes = text.getBytes(charset);
    var part =
        Files.write(
            folder.resolve(name + ".part"),
            readAs == null
                ? bytes
                : new String(bytes, Charset.forName(readAs)).getBytes(StandardCharsets.UTF_8));
    Files.move(part, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE);
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }

  private List<JsonNode> runs(String source) {
    var runs = new ArrayList<JsonNode>();
    client.json("feeds", "runs", source, "--limit=100").path("items").forEach(runs::add);
    return runs;
  }

  /** The newest run, once there are so many and it is over. */
  private JsonNode awaitRun(String source, int count) throws InterruptedException {
    for (int i = 0; i < 2_400; i++) {
      var runs = runs(source);
      if (runs.size() >= count && !runs.getFirst().path("outcome").asString().equals("running")) {
        return runs.getFirst();
      }
      Thread.sleep(25);
    }
    throw new AssertionError("There are only " + runs(source));
  }

  private long suspended() {
    return client.json("applications", "show", "mail-house").at("/accounts/suspended").asLong(0);
  }

  private List<String> archived() throws IOException {
    return names("archive");
  }

  private List<String> quarantined() throws IOException {
    return names("quarantine");
  }

  private List<String> names(String kind) throws IOException {
    try (var files = Files.list(folder.resolve(kind))) {
      return files.map(file -> file.getFileName().toString()).toList();
    }
  }

  private static List<String> codes(JsonNode problems) {
    var codes = new ArrayList<String>();
    problems.forEach(problem -> codes.add(problem.path("code").asString()));
    return codes;
  }
}
