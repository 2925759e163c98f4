package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.time.LocalDate;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Who has the say: sources that disagree, hands that override them, sources that fall silent. */
public class AuthorityTest {
  private Stage stage;
  private Client client;
  private Rest rest;
  private String ida;
  private String nora;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    rest = new Rest(stage.url(), stage.token());
    SetUp.run(client, stage);
    source("crew", 100);
    source("pay", 50);
    release(
        bring(
            "crew",
            "1,Holm,Ida,employee,+47 555 10001,Mate",
            "2,Tangen,Nora,employee,+47 555 10002,Cook"));
    ida = person("Holm");
    nora = person("Tangen");
    var made =
        bring(
            "pay",
            "P1,Holm,Ida,employee,+47 555 10001,Bosun",
            "P2,Tangen,Nora,employee,+47 555 10002,Cook");
    client.done("imports", "answer", id(made), "2", "same:" + ida);
    client.done("imports", "answer", id(made), "3", "same:" + nora);
    release(made);
  }

  private void source(String name, int rank) throws IOException {
    client.done(
        "sources",
        "put",
        name,
        file(
            name + ".json",
            """
            {"rank": %d, "key": "No", "columns": {"Family": "name.familyName",
             "Given": "name.givenName", "Kind": "userType", "Mobile": "phoneNumbers.mobile",
             "Job": "title"}}
            """
                .formatted(rank)));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aSourceOfLowerRankDoesNotWinAndTheConflictIsListedUntilSomebodySaysWhomToBelieve()
      throws Exception {
    assertThat(title(ida)).isEqualTo("Mate by crew");
    assertThat(client.done("now")).contains("Sources do not agree on one value");
    var only = client.json("conflicts", "list").path("items");
    assertThat(only).hasSize(1);
    assertThat(only.get(0).path("attribute").asString()).isEqualTo("title");
    assertThat(client.done("conflicts", "list")).contains("Mate, by crew", "pay: Bosun");

    assertThat(client.done("conflicts", "believe", ida, "title", "crew"))
        .contains("It holds already");
    assertThat(client.json("conflicts", "list").path("items")).isEmpty();

    release(bring("pay", "P1,Holm,Ida,employee,+47 555 10001,Master"));
    assertThat(client.json("conflicts", "list").path("items"))
        .as("pay says something else now")
        .hasSize(1);
    client.done("conflicts", "believe", ida, "title", "pay", "--release");
    client.settle();
    assertThat(title(ida)).isEqualTo("Master by hand");
    assertThat(client.json("conflicts", "list").path("items")).isEmpty();
    assertThat(client.run("conflicts", "believe", ida, "department", "pay").err())
        .contains("There is no value of department by pay");
  }

  @Test(
      dependsOnMethods =
          "aSourceOfLowerRankDoesNotWinAndTheConflictIsListedUntilSomebodySaysWhomToBelieve")
  public void anOverrideThatMustEndEndsByItselfAndItsSourceHasTheSayAgain() throws Exception {
    client.done("people", "edit", ida, "title=", "--release");
    client.done("attributes", "by-hand", "title", "dated");
    var refused = client.run("people", "edit", ida, "title=Pilot");
    assertThat(refused.err())
        .contains("title is set by hand up to a day only", "Name the last day");
    var today = rest.get("/api/v1/clock").body().path("now").asString().substring(0, 10);
    var until = LocalDate.parse(today).plusDays(3);
    assertThat(client.run("people", "edit", ida, "title=Pilot", "--until=2020-01-01").err())
        .contains("2020-01-01 has passed");

    client.done("people", "edit", ida, "title=Pilot", "--until=" + until, "--release");
    client.settle();
    assertThat(title(ida)).isEqualTo("Pilot by hand");
    assertThat(client.done("people", "show", ida)).contains("until " + until);
    client.done("clock", "--to=" + until + "T12:00:00Z");
    client.settle();
    assertThat(title(ida)).as("the last day is included").isEqualTo("Pilot by hand");
    client.done("clock", "--to=" + until.plusDays(1) + "T12:00:00Z");
    client.settle();
    assertThat(title(ida)).isEqualTo("Mate by crew");
  }

  @Test(dependsOnMethods = "anOverrideThatMustEndEndsByItselfAndItsSourceHasTheSayAgain")
  public void whatIsForbiddenToHandsIsRefusedAndCanBeTakenAwayStill() throws Exception {
    client.done("people", "edit", nora, "location=Quay", "--release");
    client.settle();
    client.done("attributes", "by-hand", "location", "forbidden");

    assertThat(client.run("people", "edit", nora, "location=Pier").err())
        .contains("location is not set by hand");
    client.done("people", "edit", nora, "location=", "--release");
    client.settle();
    assertThat(client.json("people", "show", nora).path("attributes").has("location")).isFalse();
    assertThat(client.done("attributes", "list")).contains("forbidden", "dated");
  }

  @Test(dependsOnMethods = "whatIsForbiddenToHandsIsRefusedAndCanBeTakenAwayStill")
  public void aSourceThatIsRetiredShowsFirstWhatFallsToWhom() throws Exception {
    release(bring("crew", "3,Vik,Per,employee,+47 555 10003,Mate"));
    var said = client.done("sources", "retirement", "crew");
    assertThat(said).contains("crew knows 3 people; of 1 nobody else says anything");
    assertThat(said).containsPattern("title +2 people: falls to pay, another value for 1");
    assertThat(said).containsPattern("title +1 people: nobody would say anything of it");

    var set = client.json("sources", "retire", "crew");
    client.done("changes", "release", set.path("id").asString(), "--reason=replaced by pay");
    client.settle();
    assertThat(title(ida)).isEqualTo("Master by pay");
    assertThat(client.json("conflicts", "list").path("items")).isEmpty();
    client.done("changes", "take-back", set.path("id").asString());
    assertThat(client.run("sources", "retire", "nobody").err())
        .contains("There is no source to retire nobody");
  }

  private JsonNode bring(String source, String... rows) throws IOException {
    return client.json(
        "imports",
        "add",
        file(source + ".csv", "No,Family,Given,Kind,Mobile,Job\n" + String.join("\n", rows) + "\n"),
        "--source=" + source);
  }

  private void release(JsonNode made) throws Exception {
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
  }

  private String title(String person) {
    var title = client.json("people", "show", person).at("/attributes/title");
    return title.path("value").asString() + " by " + title.path("source").asString();
  }

  private String person(String family) {
    return client
        .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
        .at("/items/0/id")
        .asString();
  }

  private static String id(JsonNode made) {
    return made.path("id").asString();
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }
}
