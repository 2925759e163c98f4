package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Faults;
import ebb.standins.PostBox.Letter;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The way out: gates that stay shut, and what opens them. */
public class DepartureTest {
  private static final Pattern LINK = Pattern.compile("(http://\\S+/ask/\\S+)");

  private Stage stage;
  private Client client;
  private Rest rest;

  /** Of the directory. */
  private ObjectNode atFirst;

  /** Ends the names of those of one test. */
  private char mark = 'a' - 1;

  private String head;
  private String leaver;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    rest = new Rest(stage.url(), stage.token());
    SetUp.run(client, stage);
    atFirst = settings();
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @BeforeMethod
  void bringTwo() throws Exception {
    mark++;
    head = add("Ada", "Head");
    leaver = add("Ida", "Leaver");
    client.settle();
    for (int i = 1; i <= 3; i++) {
      stage.mailHouse().items().add(account(leaver), "files", "note " + i, "text " + i, true);
    }
  }

  @AfterMethod(alwaysRun = true)
  void wellAgain() throws Exception {
    stage.mailHouse().faults().clear();
    if (!settings().equals(atFirst)) {
      put(atFirst);
    }
  }

  @Test
  public void aClosingGoesOnOnlyAsItsGatesOpen() throws Exception {
    edit(leaver, "userType=contractor");
    client.settle();
    var closing = departure();
    var id = closing.path("id").asString();
    var part = closing.at("/accounts/0/id").asString();
    assertThat(closing.at("/accounts/0/application").asString()).isEqualTo("mail-house");
    assertThat(shut(closing)).containsExactly("recipient", "handover", "waiting");

    client.done("departures", "recipient", id, person(head));
    client.done("clock", "--days=4");
    client.settle();
    assertThat(shut(departure())).containsExactly("waiting");
    assertThat(stage.mailHouse().items().names(account(head))).hasSize(3);

    var refused = client.run("departures", "waive", id, part, "suspended", "--reason=in a hurry");
    assertThat(refused.err()).contains("cannot be waived");
    client.done("departures", "waive", id, part, "waiting", "--reason=agreed with the unit");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(stage.directory().person(leaver)).as("only that account").isNotNull();
    assertThat(client.json("departures", "show", id).path("state").asString()).isEqualTo("done");
    assertThat(client.done("journal", "list")).contains("agreed with the unit");
  }

  @Test
  public void whoLeavesByHandGoesByTheProcedureOfTheirKind() throws Exception {
    client.done(
        "departures", "procedures", "seasonal", "--hand-over=1", "--delete=10", "--asks-return");
    edit(leaver, "userType=seasonal", "manager=" + person(head));
    var next = add("Eva", "Next");
    client.settle();
    var today = client.today();
    client.done(
        "departures",
        "start",
        person(leaver),
        "--last-day=" + today.minusDays(1),
        "--successor=" + person(next),
        "--release");
    client.settle();

    var departure = departure();
    var id = departure.path("id").asString();
    assertThat(departure.path("recipientName").asString()).isEqualTo("Eva Next" + mark);
    assertThat(departure.path("handOverFrom").asString()).isEqualTo(today.toString());
    assertThat(step(departure, "handover")).isEqualTo("done");
    assertThat(stage.mailHouse().items().names(account(next))).hasSize(3);
    assertThat(client.done("departures", "show", id))
        .containsPattern("return +- +waits +Nobody has said that they are not coming back");
    assertThat(client.done("now")).contains("Nobody has said that they are not coming back");

    client.done("clock", "--days=20");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNotNull();
    client.done("departures", "confirm", id, "--reason=their foreman on the phone");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(client.json("departures", "show", id).path("state").asString()).isEqualTo("done");
    assertThat(
            letter(
                    head + "@skerrow.example",
                    "Ida Leaver%s has left: what happens now".formatted(mark))
                .text())
        .contains("to Eva Next" + mark)
        .contains("say so before " + today);
    letter(head + "@skerrow.example", "The departure of Ida Leaver%s is done".formatted(mark));
  }

  @Test
  public void aPausedOneTouchesNothingAndGoesOnWhereItWas() throws Exception {
    leave();
    client.settle();
    client.done("departures", "pause", number(), "--reason=a court may ask");
    client.done("clock", "--days=60");
    client.settle();
    assertThat(stage.mailHouse().items().names(account(leaver))).hasSize(3);
    assertThat(client.done("departures", "show", number())).contains("a court may ask");

    client.done("departures", "go-on", number());
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
  }

  @Test
  public void daysAreMovedWithAReasonAndALastDayThatMovesTakesThemAlong() throws Exception {
    leave();
    client.settle();
    var before = number();
    var deletion = LocalDate.parse(departure().at("/accounts/0/deleteFrom").asString());
    assertThat(
            client
                .run(
                    "departures",
                    "move",
                    number(),
                    "--delete=" + deletion.minusDays(60),
                    "--reason=in a hurry")
                .err())
        .contains("before the handover");
    client.done(
        "departures",
        "move",
        number(),
        "--delete=" + deletion.plusDays(10),
        "--reason=a long holiday");
    assertThat(departure().at("/accounts/0/deleteFrom").asString())
        .isEqualTo(deletion.plusDays(10).toString());

    var lastDay = LocalDate.parse(departure().path("lastDay").asString());
    edit(leaver, "endDate=" + lastDay.minusDays(5));
    client.settle();
    assertThat(departure().path("id").asString()).as("the same one").isEqualTo(before);
    assertThat(departure().path("lastDay").asString()).isEqualTo(lastDay.minusDays(5).toString());
    assertThat(departure().at("/accounts/0/deleteFrom").asString())
        .as("nothing goes sooner because the past is corrected")
        .isEqualTo(deletion.plusDays(10).toString());
  }

  @Test
  public void whatIsLearntLateIsNotGoneSooner() throws Exception {
    edit(leaver, "endDate=" + client.today().minusDays(300), "manager=" + person(head));
    client.settle();

    assertThat(stage.mailHouse().accounts().byName(leaver).path("active").asBoolean()).isFalse();
    assertThat(stage.mailHouse().items().names(account(leaver)))
        .as("not yet handed over")
        .hasSize(3);
    assertThat(departure().at("/accounts/0/deleteFrom").asString())
        .isEqualTo(client.today().plusDays(29).toString());
  }

  @Test
  public void whereAnApplicationKeepsItsAccountsTheyStaySuspended() throws Exception {
    put(settings().put("removal", "keep"));
    leave();
    client.done("clock", "--days=40");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(stage.directory().person(leaver)).as("kept").isNotNull();
    assertThat(departure().path("state").asString()).isEqualTo("done");
    assertThat(client.done("departures", "show", number())).contains("it stays suspended");
  }

  @Test
  public void whereAnApplicationStripsItsAccountsNothingThereSaysWhoseTheyWere() throws Exception {
    put(settings().put("removal", "strip"));
    leave();
    client.settle();
    assertThat(departure().at("/accounts/0/ending").asString()).isEqualTo("strip");
    client.done("clock", "--days=40");
    client.settle();

    assertThat(departure().path("state").asString()).isEqualTo("done");
    assertThat(client.done("departures", "show", number()))
        .contains("stripped of what is personal, and stays suspended");
    assertThat(stage.directory().person(leaver)).isNull();
    var former = former();
    assertThat(stage.directory().person(former).toLDIFString().toLowerCase(Locale.ROOT))
        .contains("cn: " + former, "sn: " + former)
        .doesNotContain("leaver", "ida");
    assertThat(client.json("applications", "sync", "directory").path("changeSet").isNull())
        .as("nothing is put back")
        .isTrue();

    edit(leaver, "endDate=");
    client.settle();
    assertThat(stage.directory().person(former)).isNull();
    assertThat(stage.directory().person(leaver).getAttributeValue("sn")).startsWith("Leaver");
    assertThat(accountIn("directory").path("level").asString()).isEqualTo("active");
    assertThat(accountIn("directory").path("strippedAt").isNull()).isTrue();
  }

  /** What the directory calls the leaver by now. */
  private String former() {
    var account = accountIn("directory");
    assertThat(account.path("level").asString()).isEqualTo("suspended");
    assertThat(account.path("strippedAt").isNull()).isFalse();
    return account.path("name").asString();
  }

  /** The leaver's account in an application, as it stands here. */
  private JsonNode accountIn(String application) {
    return client
        .json("people", "show", person(leaver))
        .path("accounts")
        .valueStream()
        .filter(one -> one.path("application").asString().equals(application))
        .findFirst()
        .orElseThrow();
  }

  @Test
  public void whereDeletionsAreRefusedTheOthersWaitUntilOneGoesThrough() throws Exception {
    var gone =
        Stream.of("Mia", "Mae", "May", "Una", "Ute").map(name -> name + " Gone" + mark).toList();
    gone.forEach(name -> add(name.split(" ")[0], "Gone"));
    client.settle();
    gone.forEach(name -> leave(login(name)));
    client.settle();
    stage.mailHouse().faults().order(Faults.Kind.FORBIDDEN, "DELETE /scim/v2/Users", 3);
    for (var name : gone) {
      hasteDeletion(name);
    }
    assertThat(gone).allMatch(this::isAtTheHouse);
    assertThat(client.done("departures", "show", number("Una Gone" + mark)))
        .contains("mail-house refused the last 3 removals, within a day.")
        .containsPattern("Shut since [0-9-]{10}\\. Opened by: .*administrator");

    client.done("changes", "retry", deletionOf(gone.getFirst()));
    client.settle();
    assertThat(gone.stream().filter(this::isAtTheHouse))
        .as("those that waited follow by themselves")
        .isEqualTo(gone.subList(1, 3));
    for (var name : gone.subList(1, 3)) {
      client.done("changes", "retry", deletionOf(name));
    }
    client.settle();
    assertThat(gone).noneMatch(this::isAtTheHouse);
  }

  private static String login(String name) {
    return name.replace(' ', '.').toLowerCase(Locale.ROOT);
  }

  private boolean isAtTheHouse(String name) {
    return stage.mailHouse().accounts().byName(login(name)) != null;
  }

  /** Its waiting time is cut short. */
  private void hasteDeletion(String name) throws Exception {
    var departure = departure(name);
    var part =
        departure
            .path("accounts")
            .valueStream()
            .filter(one -> one.path("application").asString().equals("mail-house"))
            .findFirst()
            .orElseThrow();
    var id = part.path("id").asString();
    client.done("departures", "waive", number(name), id, "waiting", "--reason=nobody waits");
    client.settle();
  }

  /** The set that deletes what is left of somebody. */
  private String deletionOf(String name) {
    var title = "removal by departure " + number(name);
    return client
        .json("changes", "list", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(set -> set.path("title").asString().equals(title))
        .filter(set -> set.path("counts").toString().contains("refused"))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asString();
  }

  @Test
  public void theManagerIsToldOnceUntilWhenAnAccountCanBeRestored() throws Exception {
    put(settings().put("restoreDays", "10"));
    leave();
    client.done("clock", "--days=35");
    client.settle();
    var until = departure().at("/accounts/0/restorableUntil").asString();
    client.done("clock", "--days=5");
    client.settle();

    var subject =
        "The account of Ida Leaver%s in directory can be restored until %s".formatted(mark, until);
    assertThat(stage.postBox().lettersTo(head + "@skerrow.example"))
        .filteredOn(letter -> letter.subject().equals(subject))
        .singleElement()
        .satisfies(
            letter -> assertThat(letter.text()).contains("After that day nothing brings it back"));
    assertThat(stage.directory().person(leaver)).isNotNull();
    client.done("clock", "--days=10");
    client.settle();
    assertThat(stage.directory().person(leaver)).isNull();
  }

  @Test
  public void whatIsStillOpenToTheLeaverIsShutByItself() throws Exception {
    stage.mailHouse().use().openWay(account(leaver), "token", "calendar on a phone");
    leave();
    client.settle();
    waitUntil("shut", () -> stage.mailHouse().use().openWays(account(leaver)).isEmpty());
    assertThat(client.done("journal", "list")).contains("still open to the suspended account");
  }

  @Test
  public void aHoldKeepsEverythingUntilItIsLifted() throws Exception {
    leave();
    var until = client.today().plusDays(90);
    client.done("people", "hold", person(leaver), "--reason=audit", "--until=" + until);
    client.done("clock", "--days=40");
    client.settle();
    assertThat(shut(departure())).contains("hold");
    assertThat(client.done("departures", "show", number()))
        .contains("is in force until " + until + ": audit");
    assertThat(stage.mailHouse().items().names(account(leaver)))
        .as("nothing is moved either")
        .hasSize(3);

    client.done(
        "people",
        "lift",
        person(leaver),
        client.json("people", "show", person(leaver)).at("/holds/0/id").asString());
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(stage.directory().person(leaver)).isNull();
    assertThat(stage.mailHouse().items().names(account(head))).hasSize(3);
  }

  @Test
  public void whoDecidedSomethingDoesNotApproveIt() throws Exception {
    client.done("limits", "set", "owned", "2", "--of=mail-house");
    new Rest(stage.url(), stage.token())
        .json("PUT", "/api/v1/operators/second-eye", "{\"role\":\"administrator\"}");
    var second =
        new Client(
            stage.url(),
            client
                .json("tokens", "make", "approving", "--operator=second-eye")
                .path("token")
                .asString());
    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();
    var part =
        departure()
            .path("accounts")
            .valueStream()
            .filter(one -> one.path("application").asString().equals("mail-house"))
            .findFirst()
            .orElseThrow()
            .path("id")
            .asString();
    assertThat(client.done("now")).contains("for more than 2 a second person approves");
    client.done("departures", "waive", number(), part, "waiting", "--reason=agreed");

    assertThat(client.run("departures", "approve", number(), part, "--reason=all is well").err())
        .contains("has decided about this account already");
    second.done("departures", "approve", number(), part, "--reason=saw the sheet");
    client.settle();

    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(client.done("journal", "list")).contains("saw the sheet");
    client.done("limits", "set", "owned", "--of=mail-house");
  }

  @Test
  public void whoIsToGetItIsAskedAndMayDecline() throws Exception {
    leave();
    client.settle();
    var ask =
        letter(
            head + "@skerrow.example",
            "What Ida Leaver%s leaves behind comes to you".formatted(mark));
    assertThat(page(ask)).contains("files in mail-house: 3");

    assertThat(answer(ask, "takes=no&reason=")).isEqualTo(422);
    assertThat(answer(ask, "takes=no&reason=on+leave+until+spring")).isEqualTo(200);
    assertThat(answer(ask, "takes=yes")).isEqualTo(410);
    client.done("clock", "--days=4");
    client.settle();
    assertThat(shut(departure())).contains("recipient");
    assertThat(client.done("now"))
        .contains("declined by Ada Head%s: on leave until spring".formatted(mark));
    assertThat(stage.mailHouse().items().names(account(leaver))).hasSize(3);

    var next = add("Eva", "Heir");
    client.settle();
    client.done("departures", "recipient", number(), person(next));
    client.settle();
    assertThat(stage.mailHouse().items().names(account(next))).hasSize(3);
    letter(
        next + "@skerrow.example", "What Ida Leaver%s leaves behind comes to you".formatted(mark));
  }

  @Test
  public void whoTakesItIsNamedAsSuch() throws Exception {
    leave();
    client.settle();
    var ask =
        letter(
            head + "@skerrow.example",
            "What Ida Leaver%s leaves behind comes to you".formatted(mark));
    assertThat(answer(ask, "takes=yes")).isEqualTo(200);
    assertThat(client.done("departures", "show", number()))
        .contains("Ada Head%s, who takes it".formatted(mark));
  }

  private static String page(Letter letter) throws Exception {
    try (var http = HttpClient.newHttpClient()) {
      return http.send(HttpRequest.newBuilder(link(letter)).build(), BodyHandlers.ofString())
          .body();
    }
  }

  private static int answer(Letter letter, String form) throws Exception {
    try (var http = HttpClient.newHttpClient()) {
      return http.send(
              HttpRequest.newBuilder(link(letter))
                  .header("Content-Type", "application/x-www-form-urlencoded")
                  .POST(BodyPublishers.ofString(form))
                  .build(),
              BodyHandlers.ofString())
          .statusCode();
    }
  }

  private static URI link(Letter letter) {
    var link = LINK.matcher(letter.text());
    assertThat(link.find()).isTrue();
    return URI.create(link.group(1));
  }

  @Test
  public void somethingThatStillRefersToTheLeaverKeepsTheAccount() throws Exception {
    var report = add("Bo", "Report", "manager=" + person(leaver));
    leave();
    client.done("clock", "--days=40");
    client.settle();
    assertThat(shut(departure())).containsExactly("references", "references");
    assertThat(client.done("departures", "show", number())).contains("manager of Bo Report" + mark);

    edit(report, "manager=" + person(head));
    client.done("clock", "--days=1");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
  }

  @Test
  public void whoComesBackFindsEverythingAsItWas() throws Exception {
    leave();
    client.settle();
    assertThat(departure().path("state").asString()).isEqualTo("running");

    edit(leaver, "endDate=");
    client.settle();

    assertThat(departure().path("state").asString()).isEqualTo("turned-back");
    assertThat(stage.mailHouse().accounts().byName(leaver).path("active").asBoolean()).isTrue();
    client.done("clock", "--days=60");
    client.settle();
    assertThat(stage.mailHouse().items().names(account(leaver))).hasSize(3);
  }

  @Test
  public void anApplicationThatCannotBeAskedKeepsItsGateShutAndSaysSo() throws Exception {
    stage.mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "/items", 1_000);
    leave();
    client.settle();
    assertThat(client.done("departures", "show", number()))
        .contains("Stock could not be taken")
        .contains("503");

    stage.mailHouse().faults().clear();
    client.done("departures", "retry", number());
    client.settle();
    assertThat(client.done("departures", "show", number()))
        .contains("Owned when stock was taken: files: 3");
  }

  @Test
  public void aResetMakesTheLinkBeforeItWorthless() throws Exception {
    var first = letter("Your accounts are ready");
    client.done("people", "reset", person(leaver));
    client.settle();
    client.done("people", "reset", person(leaver));
    client.settle();
    var letters = stage.postBox().lettersTo(leaver + "@post.example");

    assertThat(letters).hasSize(3);
    assertThat(choose(letters.get(1))).as("the link of the first reset").isEqualTo(410);
    assertThat(choose(letters.get(2))).isEqualTo(200);
    assertThat(stage.directory().canSignIn(leaver, "a-lantern-on-the-quay")).isTrue();
    assertThat(LINK.matcher(first.text()).find()).isTrue();
  }

  @Test
  public void anAskSaysWhereThePasswordCouldNotBeSetAndStaysOpen() throws Exception {
    var letter = letter("Your accounts are ready");
    stage.mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "PATCH /scim/v2/Users", 1);

    assertThat(choose(letter)).isEqualTo(503);
    assertThat(choose(letter)).isEqualTo(200);
    assertThat(choose(letter)).isEqualTo(410);
  }

  /** Somebody whose family name ends with the mark of this test; gives their login. */
  private String add(String given, String family, String... more) {
    var login = (given + "." + family + mark).toLowerCase(Locale.ROOT);
    var command =
        new ArrayList<>(
            List.of(
                "people",
                "add",
                "name.givenName=" + given,
                "name.familyName=" + family + mark,
                "userType=employee",
                "emails.home=" + login + "@post.example"));
    command.addAll(List.of(more));
    command.add("--release");
    client.done(command.toArray(String[]::new));
    return login;
  }

  private ObjectNode settings() throws Exception {
    return (ObjectNode) rest.get("/api/v1/applications/directory").body().path("settings");
  }

  private void put(ObjectNode settings) throws Exception {
    var body = "{\"kind\":\"ldap\",\"settings\":%s}".formatted(settings);
    assertThat(rest.json("PUT", "/api/v1/applications/directory", body).status()).isEqualTo(200);
  }

  /** Yesterday was the last day, and the head gets what is left. */
  private void leave() {
    leave(leaver);
  }

  private void leave(String login) {
    edit(login, "endDate=" + client.today().minusDays(1), "manager=" + person(head));
  }

  private void edit(String login, String... attributes) {
    var command = new ArrayList<>(List.of("people", "edit", person(login)));
    command.addAll(List.of(attributes));
    command.add("--release");
    client.done(command.toArray(String[]::new));
  }

  private String person(String login) {
    return client
        .json("people", "list", "--filter", "userName eq \"%s\"".formatted(login))
        .at("/items/0/id")
        .asString();
  }

  private String account(String login) {
    return stage.mailHouse().accounts().byName(login).path("id").asText();
  }

  /** The latest of the leaver. */
  private JsonNode departure() {
    return departure("Ida Leaver" + mark);
  }

  private JsonNode departure(String name) {
    return client
        .json("departures", "list", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(one -> one.path("displayName").asString().equals(name))
        .reduce((_, last) -> last)
        .orElseThrow();
  }

  private String number() {
    return number("Ida Leaver" + mark);
  }

  private String number(String name) {
    return departure(name).path("id").asString();
  }

  private static List<String> shut(JsonNode departure) {
    return departure
        .path("accounts")
        .valueStream()
        .flatMap(account -> account.path("gates").valueStream())
        .filter(gate -> gate.path("state").asString().equals("shut"))
        .map(gate -> gate.path("name").asString())
        .toList();
  }

  private static String step(JsonNode departure, String name) {
    return departure
        .path("steps")
        .valueStream()
        .filter(step -> step.path("name").asString().equals(name))
        .findFirst()
        .orElseThrow()
        .path("state")
        .asString();
  }

  private Letter letter(String subject) {
    return letter(leaver + "@post.example", subject);
  }

  private Letter letter(String to, String subject) {
    return stage.postBox().lettersTo(to).stream()
        .filter(letter -> letter.subject().equals(subject))
        .findFirst()
        .orElseThrow();
  }

  private static int choose(Letter letter) throws Exception {
    return answer(letter, "password=a-lantern-on-the-quay&again=a-lantern-on-the-quay");
  }
}
