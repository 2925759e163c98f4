package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.time.LocalDate;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Who has the say: sources that disagree, hands that override them, sources that fall silent. */
public class AuthorityTest {
  private Stage stage;
  private Client client;
  private Lists lists;
  private Rest rest;
  private String ida;
  private String nora;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    rest = new Rest(stage.url(), stage.token());
    lists = new Lists(stage, client);
    SetUp.run(client, stage);
    lists.crew("crew", 100);
    lists.crew("pay", 50);
    lists.release(
        lists.bringCrew(
            "crew",
            "1,Holm,Ida,employee,+47 555 10001,Mate",
            "2,Tangen,Nora,employee,+47 555 10002,Cook"));
    ida = lists.person("Holm");
    nora = lists.person("Tangen");
    var made =
        lists.bringCrew(
            "pay",
            "P1,Holm,Ida,employee,+47 555 10001,Bosun",
            "P2,Tangen,Nora,employee,+47 555 10002,Cook");
    client.done("imports", "answer", Lists.id(made), "2", "same:" + ida);
    client.done("imports", "answer", Lists.id(made), "3", "same:" + nora);
    lists.release(made);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void whatASourceSaysHoldsAsFarAsItHasTheSay() throws Exception {
    aSourceOfLowerRankDoesNotWinAndTheConflictIsListedUntilSomebodySaysWhomToBelieve();
    anOverrideThatMustEndEndsByItselfAndItsSourceHasTheSayAgain();
    whatIsForbiddenToHandsIsRefusedAndCanBeTakenAwayStill();
    aSourceThatIsRetiredShowsFirstWhatFallsToWhom();
  }

  private void aSourceOfLowerRankDoesNotWinAndTheConflictIsListedUntilSomebodySaysWhomToBelieve()
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

    lists.release(lists.bringCrew("pay", "P1,Holm,Ida,employee,+47 555 10001,Master"));
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

  private void anOverrideThatMustEndEndsByItselfAndItsSourceHasTheSayAgain() throws Exception {
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

  private void whatIsForbiddenToHandsIsRefusedAndCanBeTakenAwayStill() throws Exception {
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

  private void aSourceThatIsRetiredShowsFirstWhatFallsToWhom() throws Exception {
    lists.release(lists.bringCrew("crew", "3,Vik,Per,employee,+47 555 10003,Mate"));
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

  private String title(String person) {
    var title = client.json("people", "show", person).at("/attributes/title");
    return title.path("value").asString() + " by " + title.path("source").asString();
  }
}
