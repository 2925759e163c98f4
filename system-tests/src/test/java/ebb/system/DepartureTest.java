package ebb.system;

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
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** The way out: gates that stay shut, and what opens them. */
public class DepartureTest {
  private static final Pattern LINK = Pattern.compile("(http://\\S+/ask/\\S+)");

  private Stage stage;
  private Client client;

  @BeforeMethod
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    add("Ada", "Head");
    add("Ida", "Leaver");
    client.settle();
    for (int i = 1; i <= 3; i++) {
      stage.mailHouse().items().add(account("ida.leaver"), "files", "note " + i, "text " + i, true);
    }
  }

  @AfterMethod(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aClosingGoesOnOnlyAsItsGatesOpen() throws Exception {
    edit("ida.leaver", "userType=contractor");
    client.settle();
    var closing = departure();
    var id = closing.path("id").asString();
    var part = closing.at("/accounts/0/id").asString();
    assertThat(closing.at("/accounts/0/application").asString()).isEqualTo("mail-house");
    assertThat(shut(closing)).containsExactly("recipient", "handover", "waiting");

    client.done("departures", "recipient", id, person("ada.head"));
    client.done("clock", "--days=4");
    client.settle();
    assertThat(shut(departure())).containsExactly("waiting");
    assertThat(stage.mailHouse().items().names(account("ada.head"))).hasSize(3);

    var refused = client.run("departures", "waive", id, part, "suspended", "--reason=in a hurry");
    assertThat(refused.err()).contains("cannot be waived");
    client.done("departures", "waive", id, part, "waiting", "--reason=agreed with the unit");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("ida.leaver")).isNull();
    assertThat(stage.directory().person("ida.leaver")).as("only that account").isNotNull();
    assertThat(client.json("departures", "show", id).path("state").asString()).isEqualTo("done");
    assertThat(client.done("journal", "list")).contains("agreed with the unit");
  }

  @Test
  public void aHoldKeepsEverythingUntilItIsLifted() throws Exception {
    leave();
    client.done("people", "hold", person("ida.leaver"), "--reason=audit");
    client.done("clock", "--days=40");
    client.settle();
    assertThat(shut(departure())).contains("hold");
    assertThat(stage.mailHouse().items().names(account("ida.leaver")))
        .as("nothing is moved either")
        .hasSize(3);

    client.done("people", "lift", person("ida.leaver"), "1");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("ida.leaver")).isNull();
    assertThat(stage.directory().person("ida.leaver")).isNull();
    assertThat(stage.mailHouse().items().names(account("ada.head"))).hasSize(3);
  }

  @Test
  public void somethingThatStillRefersToTheLeaverKeepsTheAccount() throws Exception {
    client.done(
        "people",
        "add",
        "name.givenName=Bo",
        "name.familyName=Report",
        "userType=employee",
        "emails.home=bo@post.example",
        "manager=" + person("ida.leaver"),
        "--release");
    leave();
    client.done("clock", "--days=40");
    client.settle();
    assertThat(shut(departure())).containsExactly("references", "references");
    assertThat(client.done("departures", "show", "1")).contains("manager of Bo Report");

    edit("bo.report", "manager=" + person("ada.head"));
    client.done("clock", "--days=1");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("ida.leaver")).isNull();
  }

  @Test
  public void whoComesBackFindsEverythingAsItWas() throws Exception {
    leave();
    client.settle();
    assertThat(departure().path("state").asString()).isEqualTo("running");

    edit("ida.leaver", "endDate=");
    client.settle();

    assertThat(client.json("departures", "show", "1").path("state").asString())
        .isEqualTo("turned-back");
    assertThat(stage.mailHouse().accounts().byName("ida.leaver").path("active").asBoolean())
        .isTrue();
    client.done("clock", "--days=60");
    client.settle();
    assertThat(stage.mailHouse().items().names(account("ida.leaver"))).hasSize(3);
  }

  @Test
  public void anApplicationThatCannotBeAskedKeepsItsGateShutAndSaysSo() throws Exception {
    stage.mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "/items", 1_000);
    leave();
    client.settle();
    assertThat(client.done("departures", "show", "1"))
        .contains("Stock could not be taken")
        .contains("503");

    stage.mailHouse().faults().clear();
    client.done("departures", "retry", "1");
    client.settle();
    assertThat(client.done("departures", "show", "1"))
        .contains("Owned when stock was taken: 3 files");
  }

  @Test
  public void aResetMakesTheLinkBeforeItWorthless() throws Exception {
    var first = letter("Your accounts are ready");
    client.done("people", "reset", person("ida.leaver"));
    client.settle();
    client.done("people", "reset", person("ida.leaver"));
    client.settle();
    var letters = stage.postBox().lettersTo("ida@post.example");

    assertThat(letters).hasSize(3);
    assertThat(choose(letters.get(1))).as("the link of the first reset").isEqualTo(410);
    assertThat(choose(letters.get(2))).isEqualTo(200);
    assertThat(stage.directory().canSignIn("ida.leaver", "a-lantern-on-the-quay")).isTrue();
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

  private void add(String given, String family) {
    client.done(
        "people",
        "add",
        "name.givenName=" + given,
        "name.familyName=" + family,
        "userType=employee",
        "emails.home=" + given.toLowerCase(Locale.ROOT) + "@post.example",
        "--release");
  }

  /** Yesterday was the last day, and the head gets what is left. */
  private void leave() {
    edit("ida.leaver", "endDate=" + LocalDate.now().minusDays(1), "manager=" + person("ada.head"));
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

  private JsonNode departure() {
    return client.json("departures", "list", "--state=running").at("/items/0");
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

  private Letter letter(String subject) {
    return stage.postBox().lettersTo("ida@post.example").stream()
        .filter(letter -> letter.subject().equals(subject))
        .findFirst()
        .orElseThrow();
  }

  private static int choose(Letter letter) throws Exception {
    var link = LINK.matcher(letter.text());
    assertThat(link.find()).isTrue();
    var request =
        HttpRequest.newBuilder(URI.create(link.group(1)))
            .header("Content-Type", "application/x-www-form-urlencoded")
            .POST(
                BodyPublishers.ofString(
                    "password=a-lantern-on-the-quay&again=a-lantern-on-the-quay"))
            .build();
    try (var http = HttpClient.newHttpClient()) {
      return http.send(request, BodyHandlers.ofString()).statusCode();
    }
  }
}
