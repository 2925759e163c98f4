package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ColorScheme;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.regex.Pattern;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** A person is shut out of everything at once, past whatever holds other changes back. */
public class EmergencyTest {
  private static final int PEOPLE = 3;

  private Stage stage;
  private MailHouse house;
  private Client client;
  private int round;
  private String person;
  private String account;
  private String login;

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
  void bringSomebodyIn() throws Exception {
    round++;
    var folder = Files.createTempDirectory("ebb-emergency");
    var file = Newcomers.file(folder, round, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    login = Newcomers.login(round, 0);
    person =
        client
            .json("people", "list", "--filter=userName eq \"" + login + "\"")
            .path("items")
            .path(0)
            .path("id")
            .asString();
    account = house.accounts().byName(login).path("id").asText();
    house.use().signIn(account, Instant.parse("2027-03-01T08:00:00Z"));
    house.use().signIn(account, Instant.parse("2027-03-01T09:00:00Z"));
    house.use().openWay(account, "token", "calendar on a phone");
  }

  @AfterMethod
  void wellAgain() throws Exception {
    house.faults().clear();
    house.manners().delay(Duration.ZERO);
    client.run("execution", "go-on");
    client.run("applications", "go-on", "mail-house");
  }

  @Test
  public void signInSessionsAndOtherWaysInAreShutEverywhere() throws Exception {
    var shown = client.done("emergency", "stop", person, "--reason=laptop stolen");

    assertThat(shown)
        .contains("laptop stolen")
        .containsPattern("mail-house .* shut after .* s +shut after")
        .containsPattern("directory .* shut after .* s +not known");
    assertThat(isShut()).isTrue();
    assertThat(client.done("now")).contains("Emergency stop of");
    assertThat(client.done("journal", "list", "--person=" + person))
        .contains("emergency stop")
        .contains("laptop stolen");
  }

  @Test
  public void nothingHoldsItBack() throws Exception {
    client.done("applications", "pause", "mail-house", "--why=it is being moved");
    client.done("execution", "stop", "--why=a wrong rule");
    house.faults().order(Kind.TOO_MANY, "/scim/v2/Users", 2);

    client.done("emergency", "stop", person, "--reason=under suspicion");
    waitUntil("shut", this::isShut);

    assertThat(client.done("execution", "show")).contains("All work is stopped");
  }

  @Test
  public void whatWasOrderedOutlivesTheServiceAndAnOutage() throws Exception {
    house.faults().order(Kind.UNAVAILABLE, "/scim/v2", 1_000);
    client.json("emergency", "stop", person, "--reason=account taken over");
    stage.killService();
    stage.startService();
    assertThat(client.done("now")).contains("Not yet shut in mail-house");

    house.faults().clear();
    waitUntil("shut", this::isShut);

    assertThat(client.done("emergency", "list")).contains("account taken over");
  }

  @Test
  public void nothingLetsThemInAgainUntilItIsLifted() throws Exception {
    client.done("emergency", "stop", person, "--reason=laptop stolen");
    client.done("people", "edit", person, "title=Bosun", "--release");
    assertThat(isShut()).as("edited and still shut").isTrue();

    var shown = client.done("emergency", "lift", person, "--reason=laptop found");
    assertThat(shown).contains("return");
    assertThat(isShut()).as("it waits for its release").isTrue();
    var set = client.json("changes", "list").path("items").path(0).path("id").asString();
    client.done("changes", "release", set);

    assertThat(house.accounts().byName(login).path("active").asBoolean()).isTrue();
    assertThat(house.accounts().byName(login).path("title").asText())
        .as("and has what was edited meanwhile")
        .isEqualTo("Bosun");
    assertThat(client.run("emergency", "show", person).exitCode()).isNotZero();
  }

  @Test
  public void fromThePersonsPageItTakesTwoActs() throws Exception {
    try (var chromium = new Chromium()) {
      var page = chromium.fresh(stage.url(), ColorScheme.LIGHT, 1280, 800).newPage();
      Chromium.signIn(page);
      page.navigate("/who/" + person);

      page.getByText("Emergency stop …").click();
      page.getByLabel("Why, for the journal").fill("laptop stolen");
      page.getByText("Shut ").last().click();

      var table = page.getByLabel("Emergency stop").locator("tbody");
      PlaywrightAssertions.assertThat(table).containsText("not known here");
      PlaywrightAssertions.assertThat(table.getByText(Pattern.compile("^shut after .* s$")))
          .hasCount(3);
    }
    assertThat(isShut()).isTrue();
  }

  private boolean isShut() {
    return !house.accounts().byName(login).path("active").asBoolean()
        && house.use().sessionsOf(account) == 0
        && house.use().openWays(account).isEmpty();
  }
}
