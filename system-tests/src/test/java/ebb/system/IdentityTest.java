package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** One person with two records, two people in one record, and keys that change. */
public class IdentityTest {
  private static final String HEADINGS = "No,Former,Family,Given,Kind,Mobile,Start\n";
  private static final String PAY_HEADINGS = "Pay,Family,Given,Kind,Mobile,Job\n";

  private Stage stage;
  private Client client;
  private long rekeyed;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    source("crew", 100, "No", "\"Former\": \"formerKey\", \"Start\": \"startDate\"");
    source("pay", 50, "Pay", "\"Job\": \"title\"");
    release(
        crew(
            "1,,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "2,,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01"));
  }

  private void source(String name, int rank, String key, String more) throws IOException {
    client.done(
        "sources",
        "put",
        name,
        file(
            name + ".json",
            """
            {"rank": %d, "key": "%s", "columns": {"Family": "name.familyName",
             "Given": "name.givenName", "Kind": "userType", "Mobile": "phoneNumbers.mobile", %s}}
            """
                .formatted(rank, key, more)));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aColumnWithFormerKeysGivesPeopleNewOnesAndMakesNobodyNew() throws Exception {
    var accounts = stage.mailHouse().accounts().count();
    var made =
        crew(
            "101,1,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "102,2,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01",
            "104,99,Vik,Per,employee,+47 555 10004,2023-05-01");
    assertThat(counts(made)).isEqualTo("changed 2, missing 0, new 1, unchanged 1");
    assertThat(client.done("imports", "rows", id(made), "--verdict=changed"))
        .contains("key: 1 → 101");
    release(made);
    rekeyed = made.path("changeSet").asLong();
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(accounts + 1);
    assertThat(keys(person("Holm"))).isEqualTo("crew 101");

    var again =
        crew(
            "101,1,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "102,,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01",
            "104,99,Vik,Per,employee,+47 555 10004,2023-05-01");
    assertThat(counts(again)).isEqualTo("missing 0, unchanged 4");
  }

  @Test(dependsOnMethods = "aColumnWithFormerKeysGivesPeopleNewOnesAndMakesNobodyNew")
  public void aKeyThatWasGivenUpAndIsGivenOutAgainIsSomebodyElses() throws Exception {
    var made =
        crew(
            "101,1,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "102,,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01",
            "104,99,Vik,Per,employee,+47 555 10004,2023-05-01",
            "1,,Aasen,Lars,employee,+47 555 10009,2027-01-01");
    assertThat(counts(made)).isEqualTo("missing 0, new 1, unchanged 4");
    client.done("changes", "discard", made.path("changeSet").asString());
  }

  @Test(dependsOnMethods = "aKeyThatWasGivenUpAndIsGivenOutAgainIsSomebodyElses")
  public void keysGoBackWithTheSetThatChangedThem() throws Exception {
    var back = client.json("changes", "take-back", Long.toString(rekeyed));
    client.done("changes", "release", back.path("id").asString(), "--reason=tried");
    client.settle();
    assertThat(keys(person("Holm"))).isEqualTo("crew 1");
  }

  @Test(dependsOnMethods = "keysGoBackWithTheSetThatChangedThem")
  public void whoWasMadeOneByMistakeIsPartedAgainWithAllThatWasSaidOfThem() throws Exception {
    var made = pay("P2,Marwick,Robert,employee,+47 555 10002,Purser");
    var row = client.json("imports", "rows", id(made), "--verdict=set-aside").at("/items/0");
    client.done(
        "imports",
        "answer",
        id(made),
        row.path("line").asString(),
        "same:" + row.at("/resembles/0/person").asString());
    release(made);
    var robert = person("Marwick");
    assertThat(keys(robert)).isEqualTo("crew 2, pay P2");
    assertThat(client.done("people", "show", robert)).contains("Purser");

    var set = client.json("people", "part", robert, "pay", "P2");
    client.done("changes", "release", set.path("id").asString());
    client.settle();
    assertThat(client.done("people", "show", robert)).doesNotContain("Purser");
    assertThat(keys(robert)).isEqualTo("crew 2");
    assertThat(
            client
                .json("people", "list", "--filter=name.familyName eq \"Marwick\"")
                .path("items")
                .size())
        .isEqualTo(2);
    assertThat(counts(pay("P2,Marwick,Robert,employee,+47 555 10002,Purser")))
        .as("the next file finds the one who was parted")
        .isEqualTo("unchanged 1");
  }

  @Test(dependsOnMethods = "whoWasMadeOneByMistakeIsPartedAgainWithAllThatWasSaidOfThem")
  public void twoRecordsOfOnePersonAreFoundAndMadeOne() throws Exception {
    var robert = person("Marwick");
    var other = client.json("people", "alike", robert).at("/items/0/id").asString();
    assertThat(client.done("people", "duplicates"))
        .contains("Robert Marwick", "the same mobile number");

    var set = client.json("people", "merge", robert, other);
    client.done("changes", "release", set.path("id").asString());
    client.settle();
    assertThat(keys(robert)).isEqualTo("crew 2, pay P2");
    assertThat(client.done("people", "show", robert)).contains("Purser");
    assertThat(client.json("people", "show", other).path("stage").asString()).isEqualTo("departed");
    assertThat(client.json("people", "duplicates").path("items")).isEmpty();
    assertThat(counts(pay("P2,Marwick,Robert,employee,+47 555 10002,Purser")))
        .isEqualTo("unchanged 1");
  }

  @Test(dependsOnMethods = "twoRecordsOfOnePersonAreFoundAndMadeOne")
  public void whoIsSaidToBeTwoIsAskedAboutNoMore() throws Exception {
    var made = pay("P3,Tangen,Nora,employee,+47 555 10003,Mate");
    var row = client.json("imports", "rows", id(made), "--verdict=set-aside").at("/items/0");
    client.done("imports", "answer", id(made), row.path("line").asString(), "new");
    release(made);
    var pair = client.json("people", "duplicates").at("/items/0");
    assertThat(pair.path("displayName").asString()).isEqualTo("Nora Tangen");

    client.done("people", "apart", pair.path("id").asString(), pair.at("/alike/id").asString());

    assertThat(client.json("people", "duplicates").path("items")).isEmpty();
  }

  @Test(dependsOnMethods = "whoIsSaidToBeTwoIsAskedAboutNoMore")
  public void whoASourceNamesTwiceIsNotMadeOneAndIsToldWhatToDo() {
    var refused = client.run("people", "merge", person("Marwick"), person("Holm"));
    assertThat(refused.exitCode()).isEqualTo(1);
    assertThat(refused.err()).contains("crew names both").contains("former key");
    var alone = client.run("people", "part", person("Holm"), "crew", "1");
    assertThat(alone.err()).contains("known by key 1 of crew and no other");
    assertThat(client.run("people", "part", person("Holm"), "crew", "55").err())
        .contains("There is no key of Ida Holm in crew 55");
  }

  private JsonNode crew(String... rows) throws IOException {
    return client.json(
        "imports",
        "add",
        file("crew.csv", HEADINGS + String.join("\n", rows) + "\n"),
        "--source=crew",
        "--complete");
  }

  private JsonNode pay(String... rows) throws IOException {
    return client.json(
        "imports",
        "add",
        file("pay.csv", PAY_HEADINGS + String.join("\n", rows) + "\n"),
        "--source=pay");
  }

  private void release(JsonNode made) throws Exception {
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=few people");
    client.settle();
  }

  private static String counts(JsonNode made) {
    var counts = new TreeMap<String, String>();
    made.path("counts")
        .properties()
        .forEach(count -> counts.put(count.getKey(), count.getValue().asString()));
    counts
        .entrySet()
        .removeIf(one -> one.getValue().equals("0") && !one.getKey().equals("missing"));
    if (!made.path("complete").asBoolean()) {
      counts.remove("missing");
    }
    return counts.entrySet().stream()
        .map(count -> count.getKey() + " " + count.getValue())
        .collect(Collectors.joining(", "));
  }

  /** The first of this name. */
  private String person(String family) {
    return client
        .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
        .at("/items/0/id")
        .asString();
  }

  private String keys(String person) {
    var keys = new ArrayList<String>();
    client
        .json("people", "keys", person)
        .path("items")
        .forEach(key -> keys.add(key.path("source").asString() + " " + key.path("key").asString()));
    return String.join(", ", keys);
  }

  private static String id(JsonNode made) {
    return made.path("id").asString();
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }
}
