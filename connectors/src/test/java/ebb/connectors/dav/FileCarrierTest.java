package ebb.connectors.dav;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.connectors.carry.Content;
import ebb.connectors.carry.Past;
import ebb.connectors.http.Credentials;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.Network;
import ebb.connectors.http.Tls;
import ebb.core.Chance;
import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.Carried;
import ebb.core.application.Carrier.NotCarried;
import ebb.core.application.Carrier.Route;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.standins.Apache;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.apache.hc.core5.http.ContentType;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class FileCarrierTest {
  private static final String AWKWARD = "Über %41 + ? # & ' 日本 \u0644\u0648\u062d";

  private static final ContentType TYPE = ContentType.TEXT_PLAIN;
  private static final Instant NOW = Instant.now();
  private static final ZonedDateTime DAY = ZonedDateTime.parse("2026-12-01T00:00Z");

  private Apache apache;
  private Dav dav;

  @BeforeClass
  void open() throws Exception {
    apache = Apache.start("");
    dav = dav(Apache.PASSWORD);
  }

  @AfterClass(alwaysRun = true)
  void close() throws Exception {
    dav.close();
    apache.close();
  }

  @Test
  public void treesWithNamesInAnyScriptArrive() throws Exception {
    home("ada");
    home("bea");
    put("ada", "notes.txt", "some notes");
    put("ada", AWKWARD + "/deep/" + AWKWARD + ".txt", "awkward");
    put("ada", "large.bin", "x".repeat(6 << 20));
    folder("ada", "empty");

    var carried = carry("ada", "bea");

    assertThat(carried).hasSize(4).allMatch(Arrived.class::isInstance);
    assertThat(files("bea"))
        .containsEntry("From Ada/notes.txt", "some notes".length() + "")
        .containsEntry("From Ada/" + AWKWARD + "/deep/" + AWKWARD + ".txt", "7")
        .containsEntry("From Ada/large.bin", (6 << 20) + "")
        .containsKey("empty folder From Ada/empty");
    assertThat(text("bea", "From Ada/" + AWKWARD + "/deep/" + AWKWARD + ".txt"))
        .isEqualTo("awkward");
  }

  @Test
  public void whatNobodyChangedForLongIsAKindOfItsOwn() throws Exception {
    home("pia");
    put("pia", "notes.txt", "some notes");
    folder("pia", "empty");
    var kinds = new TreeMap<String, String>();
    var address = apache.address() + "{login}/";

    var carrier = carrier(dav, address, Duration.ofDays(-1));
    carrier.items("pia", item -> kinds.put(item.name(), item.kind()));

    assertThat(carrier.kinds()).containsExactlyInAnyOrder("files", "past-files");
    assertThat(kinds).isEqualTo(Map.of("notes.txt", "past-files", "empty folder empty", "files"));
    assertThat(items("pia")).allMatch(item -> item.kind().equals("files"));
    carrier(dav, address, Duration.ofDays(1))
        .items("pia", item -> assertThat(item.kind()).isEqualTo("files"));
  }

  @Test
  public void aNameThatIsThereAlreadyIsNotOverwritten() throws Exception {
    home("cleo");
    home("dora");
    put("cleo", "report.odt", "the leaver's");
    put("dora", "From Ada/report.odt", "somebody else's");

    carry("cleo", "dora");
    carry("cleo", "dora");

    assertThat(text("dora", "From Ada/report.odt")).isEqualTo("somebody else's");
    assertThat(text("dora", "From Ada/report (2).odt")).isEqualTo("the leaver's");
    assertThat(files("dora")).hasSize(2);
  }

  @Test
  public void aFileThatChangedMeanwhileIsAnotherAndNothingIsLost() throws Exception {
    home("emil");
    home("finn");
    put("emil", "diary.txt", "first");
    var before = items("emil");
    carry("emil", "finn", before, _ -> true);
    put("emil", "diary.txt", "second, and longer");

    assertThat(carry("emil", "finn", before, _ -> true))
        .allSatisfy(one -> assertThat(((NotCarried) one).problem().code()).isEqualTo("item-gone"));
    carry("emil", "finn");

    assertThat(text("finn", "From Ada/diary.txt")).isEqualTo("first");
    assertThat(text("finn", "From Ada/diary (2).txt")).isEqualTo("second, and longer");
  }

  /** Broken off at random, over and over: in the end everything is there, and once. */
  @Test
  public void nothingArrivesTwiceHoweverOftenItIsBrokenOff() throws Exception {
    home("gil");
    home("hugo");
    for (int i = 0; i < 60; i++) {
      put("gil", "folder %d/file %d.txt".formatted(i % 5, i), "text " + i);
    }
    var items = items("gil");
    var random = Chance.random(4);
    var done = new HashSet<String>();
    int forgotten = 0;
    while (done.size() < items.size()) {
      var left = items.stream().filter(item -> !done.contains(item.id())).toList();
      var stop = 1 + random.nextInt(12);
      var told = new ArrayList<Carried>();
      carry(
          "gil",
          "hugo",
          left,
          one -> {
            told.add(one);
            return told.size() < stop;
          });
      var unnoted = Math.min(told.size(), random.nextInt(3));
      forgotten += unnoted;
      told.stream().skip(unnoted).map(Carried::item).forEach(done::add);
    }
    assertThat(forgotten).as("carried again").isPositive();

    assertThat(files("hugo")).hasSize(60);
    assertThat(text("hugo", "From Ada/folder 2/file 42.txt")).isEqualTo("text 42");
  }

  @Test
  public void whoHasNoHomeOwnsNothingAndAWrongAddressIsNotTakenForThat() throws Exception {
    assertThat(items("nobody-ever")).isEmpty();

    var elsewhere = carrier(dav, apache.address() + "elsewhere/{login}/");
    assertThatThrownBy(() -> elsewhere.items("nobody-ever", _ -> {}))
        .isInstanceOfSatisfying(
            Unreachable.class,
            e -> assertThat(e.problem().code()).isEqualTo("files-place-missing"));
  }

  @Test
  public void whoMayNotReadAndAServerThatIsAwayAreSaid() throws Exception {
    home("ida");
    try (var stranger = dav("guessed")) {
      assertThatThrownBy(() -> carrier(stranger).items("ida", _ -> {}))
          .isInstanceOfSatisfying(
              Unreachable.class,
              e -> assertThat(e.problem().code()).isEqualTo("files-not-allowed"));
    }
    try (var other = Apache.start("")) {
      var away = other.address();
      other.stop();
      try (var gone = new Dav(line(away, Apache.PASSWORD), "files")) {
        assertThatThrownBy(() -> carrier(gone, away + "{login}/").items("ida", _ -> {}))
            .isInstanceOfSatisfying(
                Unreachable.class,
                e -> assertThat(e.problem().code()).isEqualTo("files-no-answer"));
      }
    }
  }

  @Test
  public void whereTheServerDoesNotCopyItGoesThroughOurHands() throws Exception {
    try (var other = Apache.start("<Limit COPY>\nRequire all denied\n</Limit>");
        var its = new Dav(line(other.address(), Apache.PASSWORD), "files")) {
      var carrier = carrier(its, other.address() + "{login}/");
      its.makeCollection(URI.create(other.address() + "lea/"));
      its.makeCollection(URI.create(other.address() + "moe/"));
      try (var content = new Content()) {
        content.write("some notes".getBytes(StandardCharsets.UTF_8));
        its.put(URI.create(other.address() + "lea/notes.txt"), content, TYPE);
      }
      var items = new ArrayList<Item>();
      carrier.items("lea", items::add);
      for (int i = 0; i < 2; i++) {
        var carried = new ArrayList<Carried>();
        carrier.carry(new Route("lea", "moe", "From Lea", DAY), items, carried::add);
        assertThat(carried).hasSize(1).allMatch(Arrived.class::isInstance);
      }

      var there = new ArrayList<String>();
      carrier.items("moe", item -> there.add(item.name()));
      assertThat(there).containsExactly("From Lea/notes.txt");
    }
  }

  @Test
  public void aFolderThatIsLockedIsSaidAndTheRestGoesOn() throws Exception {
    home("jan");
    home("kim");
    put("jan", "open/one.txt", "one");
    put("jan", "shut/two.txt", "two");
    folder("kim", "From Ada");
    folder("kim", "From Ada/shut");
    lock("kim", "From Ada/shut");

    var became = new TreeMap<String, String>();
    for (var one : carry("jan", "kim")) {
      became.put(
          one.item().replaceAll("\\?.*", ""),
          one instanceof NotCarried(_, var problem) ? problem.code() : "arrived");
    }

    assertThat(became)
        .containsEntry("open/one.txt", "arrived")
        .containsEntry("shut/two.txt", "item-locked");
  }

  private List<Carried> carry(String from, String to) throws Unreachable {
    return carry(from, to, items(from), _ -> true);
  }

  private List<Carried> carry(String from, String to, List<Item> items, Predicate<Carried> goOn)
      throws Unreachable {
    var carried = new ArrayList<Carried>();
    carrier(dav)
        .carry(
            new Route(from, to, "From Ada", DAY),
            items,
            one -> {
              carried.add(one);
              return goOn.test(one);
            });
    return carried;
  }

  private List<Item> items(String login) throws Unreachable {
    var items = new ArrayList<Item>();
    carrier(dav).items(login, items::add);
    return items;
  }

  /** Name to size. */
  private Map<String, String> files(String login) throws Unreachable {
    var files = new TreeMap<String, String>();
    items(login).forEach(item -> files.put(item.name(), item.bytes() + ""));
    return files;
  }

  private FileCarrier carrier(Dav over) {
    return carrier(over, apache.address() + "{login}/");
  }

  private static FileCarrier carrier(Dav over, String address) {
    return carrier(over, address, null);
  }

  private static FileCarrier carrier(Dav over, String address, Duration pastAfter) {
    return new FileCarrier(
        new Homes(over, "files", address, login -> login), new Past("files", pastAfter, () -> NOW));
  }

  private Dav dav(String password) {
    return new Dav(line(apache.address(), password), "files");
  }

  private static JsonHttp.Line line(String address, String password) {
    return new JsonHttp.Line(
        "house",
        address,
        new Credentials.Basic(Apache.USER, new Secret(password)),
        Tls.USUAL,
        Network.INTERNAL,
        8,
        Duration.ofSeconds(10));
  }

  private URI at(String login, String path, boolean isCollection) {
    return new DavPath(List.of(path.split("/")))
        .under(apache.address() + login + "/", isCollection);
  }

  private void home(String login) throws Unreachable {
    assertThat(dav.makeCollection(URI.create(apache.address() + login + "/"))).isEqualTo(201);
  }

  private void folder(String login, String path) throws Unreachable {
    dav.makeCollection(at(login, path, true));
  }

  /** Writes over what is there, as its owner would. */
  private void put(String login, String path, String text) throws Exception {
    var names = path.split("/");
    for (int i = 1; i < names.length; i++) {
      folder(login, String.join("/", List.of(names).subList(0, i)));
    }
    send(HttpRequest.newBuilder(at(login, path, false)).PUT(BodyPublishers.ofString(text)));
  }

  private void lock(String login, String path) throws Exception {
    send(
        HttpRequest.newBuilder(at(login, path, true))
            .header("Depth", "infinity")
            .method(
                "LOCK",
                BodyPublishers.ofString(
                    "<?xml version='1.0'?><lockinfo xmlns='DAV:'><lockscope><exclusive/></lockscope>"
                        + "<locktype><write/></locktype></lockinfo>")));
  }

  private static void send(HttpRequest.Builder request) throws Exception {
    var proof =
        Base64.getEncoder()
            .encodeToString((Apache.USER + ":" + Apache.PASSWORD).getBytes(StandardCharsets.UTF_8));
    try (var client = HttpClient.newHttpClient()) {
      var answer =
          client.send(
              request.header("Authorization", "Basic " + proof).build(), BodyHandlers.ofString());
      assertThat(answer.statusCode()).as(answer.body()).isBetween(200, 299);
    }
  }

  private String text(String login, String path) throws Unreachable {
    var out = new ByteArrayOutputStream();
    assertThat(dav.get(at(login, path, false), "", out)).isPresent();
    return out.toString(StandardCharsets.UTF_8);
  }
}
