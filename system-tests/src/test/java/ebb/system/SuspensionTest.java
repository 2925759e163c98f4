package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import ebb.standins.PostBox.Letter;
import java.nio.file.Files;
import java.time.Instant;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** People are kept out of applications for a time, and come back as they were. */
public class SuspensionTest {
  private static final int PEOPLE = 4;

  private Stage stage;
  private MailHouse house;
  private Client client;
  private int round;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    house = stage.mailHouse();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @BeforeMethod
  void bringPeopleIn() throws Exception {
    round++;
    var file = Newcomers.file(Files.createTempDirectory("ebb-suspension"), round, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    client.settle();
  }

  @AfterMethod
  void wellAgain() {
    house.faults().clear();
  }

  private String person(int number) {
    return client
        .json(
            "people",
            "list",
            "--filter=userName eq \"%s\"".formatted(Newcomers.login(round, number)))
        .at("/items/0/id")
        .asString();
  }

  private boolean isActive(int number) {
    return house.accounts().byName(Newcomers.login(round, number)).path("active").asBoolean();
  }

  private String account(int number) {
    return house.accounts().byName(Newcomers.login(round, number)).path("id").asText();
  }

  private String standing(String person) {
    return client.done("suspensions", "ways", person);
  }

  @Test
  public void groupsThatAnApplicationTakesAwayComeBackWithTheAccount() throws Exception {
    for (var group : List.of("harbour-choir", "regatta")) {
      house.accounts().addGroup(group);
      house.accounts().putInto(group, account(1));
    }
    client.done("applications", "sync", "mail-house");
    house.manners().dropsGroups(true);
    client.done("suspensions", "start", person(1), "--reason=leave", "--release");
    client.settle();
    assertThat(house.accounts().groupsOf(account(1))).isEmpty();
    house.manners().dropsGroups(false);
    house.accounts().removeGroup("regatta");
    client.done("applications", "sync", "mail-house");
    assertThat(client.done("suspensions", "end", person(1)))
        .contains("mail-house: joins harbour-choir")
        .contains("mail-house: joins regatta, which is not there any more");

    house.accounts().addGroup("regatta");
    client.done("suspensions", "end", person(1), "--release");
    client.settle();
    assertThat(house.accounts().groupsOf(account(1))).contains("harbour-choir", "regatta");
  }

  @Test
  public void theAccountOfATechnicalIdentityIsAWayInToWhoeverAnswersForIt() throws Exception {
    client.done(
        "people", "edit", person(2), "userType=technical", "manager=" + person(1), "--release");
    client.done("suspensions", "start", person(1), "--reason=inquiry", "--release");
    waitUntil("found", () -> standing(person(1)).contains("technical identity"));
    var inMailHouse = wayInto("mail-house", person(1));

    assertThat(standing(person(1)))
        .containsPattern("mail-house +still open .*technical identity .* in mail-house")
        .containsPattern("directory +still open .*technical identity .* in directory")
        .contains("ebb people edit %s manager=ID".formatted(person(2)));
    var refused =
        client.run(
            "suspensions",
            "shut",
            person(1),
            inMailHouse.path("account").asString(),
            "--way=" + inMailHouse.at("/ways/0/id").asString());
    assertThat(refused.err()).contains("Name somebody else who answers for it");

    client.done(
        "suspensions",
        "waive",
        person(1),
        inMailHouse.path("account").asString(),
        inMailHouse.at("/ways/0/id").asString(),
        "--reason=its password was changed");
    assertThat(standing(person(1)))
        .containsPattern("mail-house +off ")
        .contains("waived by")
        .containsPattern("directory +still open ");
    client.done("people", "edit", person(2), "manager=" + person(3), "--release");
    lookAgain(person(1));
    waitUntil("given away", () -> !standing(person(1)).contains("technical"));
    assertThat(standing(person(1))).as("it cannot say").containsPattern("directory +not known");
  }

  private JsonNode wayInto(String application, String person) {
    return client
        .json("suspensions", "ways", person)
        .path("items")
        .valueStream()
        .filter(one -> one.path("application").asString().equals(application))
        .findFirst()
        .orElseThrow();
  }

  private void lookAgain(String person) throws Exception {
    new Rest(stage.url(), stage.token())
        .json("POST", "/api/v1/people/%s/ways-in/look".formatted(person), "");
  }

  @Test
  public void whatIsWrittenToSomebodySuspendedGoesToTheNextAboveUnlessItIsToGoOn()
      throws Exception {
    client.done("people", "edit", person(2), "manager=" + person(3), "--release");
    client.done("people", "edit", person(1), "manager=" + person(2), "--release");
    var own = Newcomers.login(round, 2) + "@skerrow.example";
    var above = Newcomers.login(round, 3) + "@skerrow.example";

    assertThat(resetIsWrittenTo(person(1))).isEqualTo(own);

    assertThat(client.done("suspensions", "start", person(2), "--reason=leave", "--notices"))
        .contains("No private address: what is written to them goes to their manager.");
    client.done("suspensions", "start", person(2), "--reason=leave", "--release");
    client.settle();
    assertThat(resetIsWrittenTo(person(1))).isEqualTo(above);

    client.done("suspensions", "end", person(2), "--release");
    client.done("people", "edit", person(2), "emails.home=two@home.example", "--release");
    client.done("suspensions", "start", person(2), "--reason=leave", "--notices", "--release");
    client.settle();
    assertThat(client.done("people", "show", person(2))).contains("notices go on");
    assertThat(resetIsWrittenTo(person(1))).isEqualTo("two@home.example");
  }

  /** Who gets the letter when a password is reset. */
  private String resetIsWrittenTo(String person) throws Exception {
    var before = resets().size();
    client.done("people", "reset", person);
    client.settle();
    waitUntil("a letter", () -> resets().size() > before);
    return resets().getLast().to();
  }

  private List<Letter> resets() {
    return stage.postBox().letters().stream()
        .filter(letter -> letter.subject().startsWith("Choose a new password"))
        .toList();
  }

  @Test
  public void anAccountThatIsSomebodysSecondOneIsAWayIn() throws Exception {
    var first = Newcomers.login(round, 3);
    house.accounts().addLike(house.accounts().byName(first), "second." + first);
    client.done("applications", "sync", "mail-house");
    waitUntil(
        "looked at",
        () -> client.json("findings", "list", "mail-house").toString().contains("duplicate"));

    client.done("suspensions", "start", person(3), "--reason=inquiry", "--release");

    waitUntil("found", () -> standing(person(3)).contains("second account second." + first));
  }

  @Test
  public void manyAreSuspendedAtOnceAndEachIsToldApart() throws Exception {
    client.done("suspensions", "start", person(1), "--reason=leave", "--release");
    assertThat(isActive(1)).isFalse();
    assertThat(client.done("people", "list", "--limit=500"))
        .containsPattern(Newcomers.login(round, 1) + " .*, suspended")
        .doesNotContainPattern(Newcomers.login(round, 0) + " .*suspended");

    var shown =
        client.done(
            "suspensions", "start", person(0), person(1), "--reason=season", "--note=until May");

    assertThat(shown)
        .containsPattern(person(0) + " .* changes +directory, mail-house")
        .containsPattern(person(1) + " .* already so")
        .contains("suspension of 2 people")
        .containsPattern("mail-house +suspend +1  1 proposed");
    assertThat(isActive(0)).as("it waits for its release").isTrue();
  }

  @Test
  public void allAFilterFindsOnlyIfItFindsAsManyAsExpected() throws Exception {
    var filter =
        "--filter=userName eq \"%s\" or userName eq \"%s\""
            .formatted(Newcomers.login(round, 0), Newcomers.login(round, 2));

    var unsaid = client.run("suspensions", "start", filter, "--reason=season");
    assertThat(unsaid.exitCode()).isNotZero();
    assertThat(unsaid.err()).contains("finds 2 people").contains("expect 2");
    assertThat(
            client.run("suspensions", "start", filter, "--expect=3", "--reason=season").exitCode())
        .isNotZero();

    client.done("suspensions", "start", filter, "--expect=2", "--reason=season", "--release");
    client.settle();
    assertThat(isActive(0)).isFalse();
    assertThat(isActive(1)).isTrue();
    assertThat(isActive(2)).isFalse();
  }

  @Test
  public void whatIsStillOpenIsFoundAndShutOrWaivedByName() throws Exception {
    var account = account(0);
    house.use().signIn(account, Instant.parse("2027-03-01T08:00:00Z"));
    house.use().openWay(account, "token", "calendar on a phone");
    house.use().openWay(account, "forwarding rule", "all to home@post.example");

    client.done("suspensions", "start", person(0), "--reason=inquiry", "--release");
    waitUntil("asked", () -> standing(person(0)).contains("still open"));

    assertThat(standing(person(0)))
        .containsPattern("directory +not known")
        .containsPattern("mail-house +still open +1 ")
        .contains("token calendar on a phone")
        .contains("forwarding rule all to home@post.example");
    assertThat(client.done("now")).contains("is switched off, and can still get in");
    var found = client.json("suspensions", "ways", person(0)).path("items");
    var mail = found.get(0).path("application").asString().equals("mail-house") ? 0 : 1;
    var number = found.get(mail).path("account").asString();
    var ways = found.get(mail).path("ways");
    var kept = ways.get(0).path("kind").asString().equals("token") ? 1 : 0;
    client.done(
        "suspensions",
        "waive",
        person(0),
        number,
        ways.get(kept).path("id").asString(),
        "--reason=the customers' orders come there");
    client.done(
        "suspensions",
        "shut",
        person(0),
        number,
        "--way=" + ways.get(1 - kept).path("id").asString());
    waitUntil("asked again", () -> !standing(person(0)).contains("calendar on a phone"));
    assertThat(house.use().sessionsOf(account)).as("one way only was shut").isEqualTo(1);
    assertThat(standing(person(0))).contains("still open").contains("waived by");

    client.done("suspensions", "shut", person(0), number);
    waitUntil(
        "off", () -> client.json("suspensions", "ways", person(0)).toString().contains("\"off\""));
    assertThat(house.use().sessionsOf(account)).isZero();
  }

  @Test
  public void onReturnTheSamePersonComesBackWithWhatStillFits() throws Exception {
    var before = account(0);
    client.done("suspensions", "start", person(0), "--reason=leave", "--release");
    client.done("people", "edit", person(0), "title=Bosun", "--release");
    assertThat(isActive(0)).as("edited and still off").isFalse();

    var shown = client.done("suspensions", "end", person(0));
    assertThat(shown)
        .containsPattern(person(0) + " .* directory, mail-house .*set title")
        .contains("return of");
    assertThat(isActive(0)).isFalse();
    client.done("changes", "release", client.json("changes", "list").at("/items/0/id").asString());

    assertThat(isActive(0)).isTrue();
    assertThat(account(0)).isEqualTo(before);
    assertThat(house.accounts().byName(Newcomers.login(round, 0)).path("title").asText())
        .isEqualTo("Bosun");
    assertThat(client.done("suspensions", "ways", person(0))).contains("No account");
  }

  @Test
  public void itEndsByItselfOnItsDayAndIsToldAhead() throws Exception {
    var last = client.today().plusDays(5);
    client.done(
        "suspensions",
        "start",
        person(0),
        "--reason=leave",
        "--until=" + last,
        "--review=" + client.today().plusDays(2),
        "--release");
    assertThat(client.done("suspensions", "list")).contains(last.toString());
    assertThat(client.done("forecast", last.plusDays(1).toString())).contains("back in use");

    client.done("clock", "--days=2");
    assertThat(client.done("now")).contains("to be looked at again");
    client.done("clock", "--days=4");
    waitUntil("back", () -> isActive(0));
  }

  @Test
  public void whyIsSeenOnlyByThoseToWhomDiscreetCasesAreOpen() throws Exception {
    client.done(
        "suspensions",
        "start",
        person(0),
        "--reason=inquiry",
        "--note=cash at the till",
        "--discreet",
        "--release");
    var rest = new Rest(stage.url(), stage.token());
    rest.json("PUT", "/api/v1/operators/nosy", "{\"role\":\"administrator\"}");
    var token = rest.json("POST", "/api/v1/tokens", "{\"label\":\"a look\",\"operator\":\"nosy\"}");
    var other = new Client(stage.url(), token.body().path("token").asString());

    assertThat(client.done("suspensions", "list")).contains("inquiry");
    assertThat(client.done("people", "show", person(0))).contains("cash at the till");
    assertThat(other.done("suspensions", "list")).doesNotContain(person(0) + " ");
    assertThat(other.done("people", "show", person(0)))
        .contains("why is discreet")
        .doesNotContain("cash at the till");
    assertThat(other.done("journal", "list", "--person=" + person(0))).doesNotContain("inquiry");
    var refused = other.run("suspensions", "end", person(0));
    assertThat(refused.exitCode()).isNotZero();
    assertThat(refused.err()).contains("nosy may not look into it");
  }

  @Test
  public void takenBackItNeverWas() throws Exception {
    client.done(
        "suspensions", "start", person(0), "--reason=other", "--note=a mistake", "--release");
    var set = client.json("changes", "list").at("/items/0/id").asString();
    assertThat(isActive(0)).isFalse();

    client.done("changes", "take-back", set, "--release");

    assertThat(isActive(0)).isTrue();
    assertThat(client.done("people", "show", person(0))).doesNotContain("suspended from");
  }

  @Test
  public void anApplicationThatIsDownIsSwitchedOffAndAskedWhenItAnswers() throws Exception {
    house.use().openWay(account(0), "token", "a script");
    house.faults().order(Kind.UNAVAILABLE, "/scim/v2", 1_000);
    var set =
        client.json("suspensions", "start", person(0), "--reason=leave").path("id").asString();
    client.run("changes", "release", set, "--no-wait");
    stage.killService();
    stage.startService();
    assertThat(isActive(0)).isTrue();

    house.faults().clear();
    waitUntil("off", () -> !isActive(0));
    waitUntil("asked", () -> standing(person(0)).contains("a script"));
  }

  @Test
  public void whatMakesNoSenseIsSaidAllAtOnce() {
    var refused =
        client.run(
            "suspensions",
            "start",
            person(0),
            "--reason=other",
            "--from=2020-01-01",
            "--until=2020-01-02",
            "--in=nowhere");

    assertThat(refused.exitCode()).isNotZero();
    assertThat(refused.err())
        .contains("No note says what the other reason is")
        .contains("2020-01-01 has passed")
        .contains("There is no application nowhere")
        .contains("is before the first");
    assertThat(client.run("suspensions", "end", person(0)).err())
        .contains("Nothing that an operator ordered");
  }
}
