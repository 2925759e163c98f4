package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** How released changes are carried out, whatever the application does. */
public class ExecutionTest {
  private static final int PEOPLE = 12;

  private Stage stage;
  private MailHouse house;
  private Client client;
  private int rounds;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    house = stage.mailHouse();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterMethod
  void wellAgain() {
    house.faults().clear();
    house
        .manners()
        .delay(Duration.ZERO)
        .settling(Duration.ZERO)
        .normalises(false)
        .strict(false)
        .cursors(false);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void whatWasSentAndAnsweredIsKeptForEachChange() throws Exception {
    var set = released();
    settle(set);

    var change = changes(set).getFirst().path("id").asString();
    var sent = client.done("changes", "sent", change);
    assertThat(sent)
        .contains("Try 1, then seen")
        .contains("> POST /Users")
        .contains("< 201")
        .contains("> GET /Users/")
        .doesNotContain("Bearer");
  }

  @Test
  public void aPausedApplicationGetsNothingWhileTheOthersGoOn() throws Exception {
    int before = house.accounts().count();
    client.done("applications", "pause", "mail-house", "--why=it is being moved");
    var directory = stage.directory().people();

    var set = released();
    waitUntil(() -> stage.directory().people() == directory + PEOPLE);

    assertThat(house.accounts().count()).isEqualTo(before);
    assertThat(client.done("execution", "show")).contains("paused by").contains("being moved");
    assertThat(client.done("now")).contains("mail-house is paused");
    client.done("applications", "go-on", "mail-house");
    settle(set);
    assertThat(house.accounts().count()).isEqualTo(before + PEOPLE);
  }

  @Test
  public void stoppedWorkIsFinishedAndNothingElseIsSent() throws Exception {
    house.manners().delay(Duration.ofMillis(150));
    int before = house.accounts().count();
    var set = released();
    waitUntil(() -> house.accounts().count() > before);

    client.done("execution", "stop", "--why=a wrong rule");
    waitUntil(() -> underWay() == 0);
    int writes = house.journal().size();
    Thread.sleep(600);

    assertThat(house.journal()).hasSize(writes);
    assertThat(client.done("now")).contains("All work on all applications is stopped");
    client.done("execution", "go-on");
    settle(set);
    assertThat(house.accounts().count()).isEqualTo(before + PEOPLE);
  }

  @DataProvider
  Object[][] faults() {
    return new Object[][] {
      {List.of(Kind.UNAVAILABLE)},
      {List.of(Kind.BUSY_FOR_A_SECOND)},
      {List.of(Kind.BUSY_UNTIL)},
      {List.of(Kind.TOO_MANY)},
      {List.of(Kind.TOKEN_EXPIRED)},
      {List.of(Kind.CUT_BEFORE_WRITE)},
      {List.of(Kind.CUT_AFTER_WRITE)},
      {List.of(Kind.FAILS_AFTER_WRITE)},
      {List.of(Kind.TRUNCATED)},
      {List.of(Kind.HTML)},
      {List.of(Kind.WRONG_VERSION)},
      {
        List.of(
            Kind.CUT_AFTER_WRITE,
            Kind.TOO_MANY,
            Kind.TRUNCATED,
            Kind.FAILS_AFTER_WRITE,
            Kind.UNAVAILABLE,
            Kind.HTML)
      },
    };
  }

  @Test(dataProvider = "faults")
  public void everyChangeHasOneEffectWhateverBefallsIt(List<Kind> faults) throws Exception {
    int before = house.accounts().count();
    // Each failure in a row doubles the rest: a dozen of them could last for many minutes.
    var often = faults.size() == 1 ? 2 : 1;
    faults.forEach(fault -> house.faults().order(fault, "/scim/v2/Users", often));

    settle(released());

    assertThat(house.accounts().count()).isEqualTo(before + PEOPLE);
    assertThat(creates().values()).containsOnly(1);
  }

  @Test
  public void aSecondRunOverAnApplicationThatSpellsInItsOwnWayWritesNothing() throws Exception {
    house.manners().normalises(true).strict(true).cursors(true);
    connect();
    var set = released();
    settle(set);
    int writes = house.journal().size();

    var found = client.json("applications", "sync", "mail-house");
    assertThat(found.path("drifted").asInt()).isZero();
    assertThat(found.path("changeSet").isNull()).isTrue();
    client.done("imports", "add", people(rounds).toString(), "--source=hr");
    client.settle();

    assertThat(house.journal()).hasSize(writes);
    house.manners().normalises(false).strict(false).cursors(false);
    connect();
  }

  @Test
  public void whatIsShownOnlyLaterIsNotSentTwice() throws Exception {
    house.manners().settling(Duration.ofMillis(600));
    connect("--set=settles=1");
    int before = house.accounts().count();

    settle(released());

    assertThat(house.accounts().count()).isEqualTo(before + PEOPLE);
    assertThat(creates().values()).containsOnly(1);
    connect();
  }

  @Test
  public void aWrongTokenIsSaidAndWithTheRightOneAllGoesOn() throws Exception {
    int before = house.accounts().count();
    connectWith("wrong");
    var shown = client.done("applications", "show", "mail-house");
    assertThat(shown).contains("does not know Ebb (401)").contains("token or password");

    var set = released();
    waitUntil(() -> client.done("execution", "show").contains("does not know Ebb"));
    assertThat(house.accounts().count()).isEqualTo(before);

    connect();
    settle(set);
    assertThat(house.accounts().count()).isEqualTo(before + PEOPLE);
  }

  @Test
  public void aNameThatSomebodyElseHasStopsOnlyItself() throws Exception {
    var taken = Newcomers.login(rounds + 1, 1);
    var stranger = house.accounts().add(taken);

    var set = released();
    waitUntil(() -> states(set).contains("refused"));
    waitUntil(() -> !states(set).contains("queued") && !states(set).contains("claimed"));

    assertThat(client.done("changes", "show", set)).contains("already has an account " + taken);
    house.accounts().remove(stranger);
    client.done("changes", "retry", set);
    settle(set);
  }

  @Test
  public void aRuleGivesEachASeatAndTakesItBack() throws Exception {
    var people = released();
    settle(people);
    house.use().addSeats("standard", 1);
    client.done("applications", "inspect", "mail-house");
    var tooMany = rule(rule -> rule.putArray("seats").addObject().put("seat", "standard"));
    assertThat(client.run("changes", "release", tooMany).err())
        .contains("seats standard would be taken, and 1 of 1 are left");
    client.done("changes", "discard", tooMany);
    house.use().addSeats("standard", 10_000);

    var given = rule(rule -> rule.putArray("seats").addObject().put("seat", "standard"));
    client.done("changes", "release", given, "--reason=seats for all");
    settle(given);

    var login = Newcomers.login(rounds, 0);
    assertThat(client.done("applications", "seats", "mail-house")).contains("standard");
    assertThat(house.use().takersOf("standard")).isEqualTo(house.accounts().count());
    assertThat(client.done("people", "show", number(login))).contains("seat: standard");

    costsAreSaid();

    var back = rule(rule -> rule.putArray("seats"));
    assertThat(client.run("changes", "release", back).err()).contains("lose a seat");
    client.done("changes", "release", back, "--reason=too dear");
    settle(back);
    assertThat(house.use().takersOf("standard")).isZero();
  }

  private void costsAreSaid() throws Exception {
    assertThat(connect("price.standard=twelve").err()).contains("cannot be twelve");
    assertThat(connect("price.standard=12.50 EUR").exitCode()).isZero();
    assertThat(client.done("applications", "seats", "mail-house"))
        .contains(String.format(Locale.ROOT, "%,.2f EUR", 12.5 * house.accounts().count()));

    var today = client.today();
    client.done(
        "people",
        "add",
        "name.givenName=Una",
        "name.familyName=Dear",
        "userType=employee",
        "startDate=" + today.plusDays(40),
        "--release");
    assertThat(client.done("forecast", "--days=60"))
        .contains("; +12.50 EUR a month")
        .doesNotContain("would not take this");
    house.faults().order(Kind.FORBIDDEN, "/Users/00000000-0000", 100);
    connect("price.standard=12.50 EUR");
    assertThat(client.done("forecast", "--days=60"))
        .as("what may be written is tried long before the day")
        .contains("As mail-house is now, it would not take this: ");
    house.faults().clear();
    connect("price.standard=12.50 EUR");
    assertThat(client.done("forecast", "--days=60")).doesNotContain("would not take this");
  }

  private Client.Said connect(String setting) {
    return client.run(
        "applications",
        "connect",
        "mail-house",
        "--kind=scim",
        "--set=address=" + house.scim(),
        "--set=companion=" + house.companion(),
        "--set=network=internal",
        "--set=" + setting);
  }

  /** Edits the rule of the mail house; the set that follows. */
  private String rule(Consumer<ObjectNode> edit) throws IOException {
    var rule = (ObjectNode) client.json("rules", "show", "mail-for-employees");
    edit.accept(rule);
    var file = Files.writeString(stage.home().resolve("rule.json"), rule.toString());
    return client.json("rules", "put", "mail-for-employees", file.toString()).path("id").asString();
  }

  private String number(String login) {
    return client
        .json("people", "list", "--filter=userName eq \"" + login + "\"")
        .path("items")
        .path(0)
        .path("id")
        .asString();
  }

  @Test
  public void tryingAnApplicationKeepsNothingAndWritesNothing() throws Exception {
    int writes = house.journal().size();

    var tried =
        client.done(
            "applications",
            "try",
            "another-house",
            "--kind=scim",
            "--set=address=" + house.scim(),
            "--set=network=internal",
            "--secret-file=" + secret(token()));

    assertThat(tried)
        .contains("yes  list accounts")
        .contains("yes  change accounts")
        .contains("no   ownership")
        .contains("userName")
        .contains("required");
    assertThat(house.journal()).hasSize(writes);
    assertThat(client.run("applications", "show", "another-house").exitCode()).isNotZero();
    var refused =
        client.run(
            "applications",
            "try",
            "another-house",
            "--kind=scim",
            "--set=address=" + house.scim(),
            "--set=colour=blue");
    assertThat(refused.err()).contains("without a secure line").contains("no setting colour");
  }

  @Test
  public void secretsGoOnUnderANewKey() throws Exception {
    client.done("secrets", "rotate");
    settle(released());

    stage.killService();
    stage.startService();
    settle(released());

    assertThat(client.run("journal", "verify").exitCode()).isZero();
    assertThat(Files.readAllLines(stage.home().resolve("secret.key"))).hasSize(1);
  }

  // How ------------------------------------------------------------------------------------------

  /** Newcomers who are released, and on their way. */
  private String released() throws IOException {
    var made = client.json("imports", "add", people(++rounds).toString(), "--source=hr");
    var set = made.path("changeSet").asString();
    client.done("changes", "release", set, "--no-wait", "--reason=a trial");
    return set;
  }

  private Path people(int round) throws IOException {
    return Newcomers.file(stage.home(), round, PEOPLE);
  }

  private void connect(String... more) throws IOException {
    connectWith(token(), more);
  }

  private void connectWith(String token, String... more) throws IOException {
    var command =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                "mail-house",
                "--kind=scim",
                "--set=address=" + house.scim(),
                "--set=companion=" + house.companion(),
                "--set=network=internal",
                "--secret-file=" + secret(token)));
    command.addAll(List.of(more));
    client.done(command.toArray(String[]::new));
  }

  private static String token() {
    return "mail-house-token";
  }

  private String secret(String text) throws IOException {
    return Files.writeString(stage.home().resolve("token"), text).toString();
  }

  private void settle(String set) throws Exception {
    try {
      waitUntil(() -> states(set).equals(List.of("seen")));
    } catch (AssertionError e) {
      throw new AssertionError("Not all was seen:\n" + client.done("changes", "show", set), e);
    }
  }

  private List<String> states(String set) {
    return client
        .json("changes", "show", set)
        .path("counts")
        .valueStream()
        .map(count -> count.path("state").asString())
        .distinct()
        .toList();
  }

  private List<JsonNode> changes(String set) {
    return client
        .json("changes", "show", set, "--all", "--application=mail-house")
        .path("items")
        .valueStream()
        .toList();
  }

  private long underWay() {
    return client
        .json("execution", "show")
        .path("applications")
        .valueStream()
        .mapToLong(one -> one.path("underWay").asLong())
        .sum();
  }

  private Map<String, Integer> creates() {
    var creates = new HashMap<String, Integer>();
    for (var write : house.journal()) {
      if (write.what().equals("POST /scim/v2/Users")) {
        creates.merge(write.sent().path("externalId").asText(), 1, Integer::sum);
      }
    }
    return creates;
  }
}
