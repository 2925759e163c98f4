package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Who is who: keys that change, people who come back, rows for somebody known. */
public class MatchingTest extends WithService {
  private static final String HEADINGS = "No,Family,Given,Kind,Mobile,Start\n";
  private static final String CREW =
      """
      1,Kvåle,Åse,employee,+47 555 10001,2020-03-01
      2,Marwick,Robert,employee,+47 555 10002,2021-05-01
      3,Sokolov,Dmitriy,employee,+47 555 10003,2019-09-01
      4,Holm,Ida,employee,+47 555 10004,2022-01-10
      """;

  @BeforeClass
  void bringPeople() throws Exception {
    lists.source(
        "crew",
        100,
        "No",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Mobile=phoneNumbers.mobile",
        "Start=startDate");
    lists.release(bring(CREW));
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void rowsFindTheirPeopleAndDoubtfulOnesAreAskedAbout() throws Exception {
    nobodyIsMadeTwiceByAnotherKeyAnotherNameOrAnotherSpelling();
    whatAFeedLeavesOpenIsDecidedAfterwards();
    whoeverStandsInAFileTwiceUnderTwoKeysIsAskedAbout();
  }

  private void nobodyIsMadeTwiceByAnotherKeyAnotherNameOrAnotherSpelling() throws Exception {
    var accounts = stage.mailHouse().accounts().count();
    var made =
        bring(
            CREW.replace("1,Kvåle,Åse", "101,Kvale,Ase")
                .replace("2,Marwick,Robert", "102,Marwick,Bob")
                .replace("3,Sokolov,Dmitriy", "103,Соколов,Дмитрий")
                .replace("4,Holm,Ida", "104,Tangen,Ida"));
    assertThat(made.at("/counts/set aside").asLong()).isEqualTo(4);
    assertThat(made.at("/counts/new").asLong()).isZero();
    var rows = rows(made);
    assertThat(likes(rows.get(0)))
        .isEqualTo(
            "Åse Kvåle: the same mobile number, the same name, missing from the source now,"
                + " the same first day");
    assertThat(likes(rows.get(1))).startsWith("Robert Marwick: ").contains("a short form");
    assertThat(likes(rows.get(2))).startsWith("Dmitriy Sokolov: ").contains("the same name");
    assertThat(likes(rows.get(3)))
        .startsWith("Ida Holm: ")
        .contains("the same given name with another family name");
    assertThat(rows.get(3).at("/resembles/0/values/name.familyName").asString()).isEqualTo("Holm");

    for (var row : rows) {
      client.done(
          "imports",
          "answer",
          Lists.id(made),
          row.path("line").asString(),
          "same:" + row.at("/resembles/0/person").asString());
    }
    lists.release(made);
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(accounts);
    assertThat(people("")).isEqualTo(4);
    assertThat(client.done("people", "list", "--filter=name.familyName eq \"Tangen\""))
        .contains("ida.tangen");

    var again =
        bring(
            CREW.replace("1,Kvåle,Åse", "101,Kvale,Ase")
                .replace("2,Marwick,Robert", "102,Marwick,Bob")
                .replace("3,Sokolov,Dmitriy", "103,Соколов,Дмитрий")
                .replace("4,Holm,Ida", "104,Tangen,Ida"));
    assertThat(again.at("/counts/unchanged").asLong())
        .as("the answers are remembered")
        .isEqualTo(4);
    assertThat(again.at("/counts/missing").asLong())
        .as("nobody is missing under the key of before")
        .isZero();
  }

  private void whoeverStandsInAFileTwiceUnderTwoKeysIsAskedAbout() throws Exception {
    var made =
        client.json(
            "imports",
            "add",
            lists.file(
                "twice.csv",
                HEADINGS
                    + "301,Twicely,Nora,employee,+47 555 30001,2026-01-05\n"
                    + "302,TWICELY,Nora,employee,004755530001,2026-01-05\n"),
            "--source=crew");
    assertThat(made.at("/counts/new").asLong()).isEqualTo(1);
    var row = rows(made).getFirst();
    assertThat(likes(row)).contains("line 2 of this file");
    client.done(
        "imports",
        "answer",
        Lists.id(made),
        row.path("line").asString(),
        "same:" + row.at("/resembles/0/person").asString());
    lists.release(made);
    assertThat(people("name.familyName sw \"twicely\"")).isEqualTo(1);
  }

  private void whatAFeedLeavesOpenIsDecidedAfterwards() throws Exception {
    var folder = Files.createDirectories(stage.home().resolve("in"));
    client.done("feeds", "put", "crew", "--kind=folder", "--set=path=" + folder);
    client.done("feeds", "on", "crew");
    Files.writeString(
        folder.resolve("one.csv"), HEADINGS + "201,Kvåle,Åse,employee,+47 555 10001,2026-11-01\n");
    var run = awaitRun();
    assertThat(run.path("outcome").asString()).isEqualTo("done");
    assertThat(client.done("now")).contains("1 row is set aside");

    var made = client.json("imports", "show", run.path("made").asString());
    var row = rows(made).getFirst();
    client.done(
        "imports",
        "answer",
        Lists.id(made),
        row.path("line").asString(),
        "same:" + row.at("/resembles/0/person").asString());
    assertThat(client.done("now")).doesNotContain("1 row is set aside");
    var sets = client.json("changes", "list", "--state=shown");
    assertThat(sets.at("/items/0/title").asString()).isEqualTo("decisions about one.csv");
    client.done("changes", "release", sets.at("/items/0/id").asString());
    client.settle();
    assertThat(people("name.familyName sw \"Kv\"")).isEqualTo(1);
  }

  private JsonNode awaitRun() throws InterruptedException {
    for (int i = 0; i < 1_200; i++) {
      var runs = client.json("feeds", "runs", "crew").path("items");
      if (!runs.isEmpty() && !runs.get(0).path("outcome").asString().equals("running")) {
        return runs.get(0);
      }
      Thread.sleep(25);
    }
    throw new AssertionError("The feed was not looked at");
  }

  private JsonNode bring(String rows) throws IOException {
    return client.json(
        "imports", "add", lists.file("crew.csv", HEADINGS + rows), "--source=crew", "--complete");
  }

  private List<JsonNode> rows(JsonNode made) {
    var rows = new ArrayList<JsonNode>();
    client
        .json("imports", "rows", Lists.id(made), "--verdict=set-aside")
        .path("items")
        .forEach(rows::add);
    return rows;
  }

  private static String likes(JsonNode row) {
    var reasons = new ArrayList<String>();
    row.at("/resembles/0/reasons").forEach(reason -> reasons.add(reason.asString()));
    return row.at("/resembles/0/displayName").asString() + ": " + String.join(", ", reasons);
  }

  private int people(String filter) {
    var all =
        filter.isEmpty()
            ? client.json("people", "list")
            : client.json("people", "list", "--filter=" + filter);
    return all.path("items").size();
  }
}
