package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** One person with two records, two people in one record, and keys that change. */
public class IdentityTest extends WithService {
  private static final String HEADINGS = "No,Former,Family,Given,Kind,Mobile,Start";
  private static final String PAY_HEADINGS = "Pay,Family,Given,Kind,Mobile,Job";

  private long rekeyed;

  @BeforeClass
  void bringPeople() throws Exception {
    lists.source(
        "crew",
        100,
        "No",
        "Former=formerKey",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Mobile=phoneNumbers.mobile",
        "Start=startDate");
    lists.source(
        "pay",
        50,
        "Pay",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Mobile=phoneNumbers.mobile",
        "Job=title");
    lists.release(
        crew(
            "1,,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "2,,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01"));
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void peopleStayWhoTheyAreWhateverBecomesOfTheirKeys() throws Exception {
    aColumnWithFormerKeysGivesPeopleNewOnesAndMakesNobodyNew();
    aKeyThatWasGivenUpAndIsGivenOutAgainIsSomebodyElses();
    keysGoBackWithTheSetThatChangedThem();
    whoWasMadeOneByMistakeIsPartedAgainWithAllThatWasSaidOfThem();
    twoRecordsOfOnePersonAreFoundAndMadeOne();
    whoIsSaidToBeTwoIsAskedAboutNoMore();
    whoASourceNamesTwiceIsNotMadeOneAndIsToldWhatToDo();
  }

  private void aColumnWithFormerKeysGivesPeopleNewOnesAndMakesNobodyNew() throws Exception {
    var accounts = stage.mailHouse().accounts().count();
    var made =
        crew(
            "101,1,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "102,2,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01",
            "104,99,Vik,Per,employee,+47 555 10004,2023-05-01");
    assertThat(counts(made)).isEqualTo("changed 2, missing 0, new 1, unchanged 1");
    assertThat(client.done("imports", "rows", Lists.id(made), "--verdict=changed"))
        .contains("key: 1 → 101");
    lists.release(made);
    rekeyed = made.path("changeSet").asLong();
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(accounts + 1);
    assertThat(keys(lists.person("Holm"))).isEqualTo("crew 101");

    var again =
        crew(
            "101,1,Holm,Ida,employee,+47 555 10001,2020-03-01",
            "102,,Marwick,Robert,employee,+47 555 10002,2021-05-01",
            "3,,Tangen,Nora,employee,+47 555 10003,2022-05-01",
            "104,99,Vik,Per,employee,+47 555 10004,2023-05-01");
    assertThat(counts(again)).isEqualTo("missing 0, unchanged 4");
  }

  private void aKeyThatWasGivenUpAndIsGivenOutAgainIsSomebodyElses() throws Exception {
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

  private void keysGoBackWithTheSetThatChangedThem() throws Exception {
    var back = client.json("changes", "take-back", Long.toString(rekeyed));
    client.done("changes", "release", back.path("id").asString(), "--reason=tried");
    client.settle();
    assertThat(keys(lists.person("Holm"))).isEqualTo("crew 1");
  }

  private void whoWasMadeOneByMistakeIsPartedAgainWithAllThatWasSaidOfThem() throws Exception {
    var made = pay("P2,Marwick,Robert,employee,+47 555 10002,Purser");
    var row = client.json("imports", "rows", Lists.id(made), "--verdict=set-aside").at("/items/0");
    client.done(
        "imports",
        "answer",
        Lists.id(made),
        row.path("line").asString(),
        "same:" + row.at("/resembles/0/person").asString());
    lists.release(made);
    var robert = lists.person("Marwick");
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

  private void twoRecordsOfOnePersonAreFoundAndMadeOne() throws Exception {
    var robert = lists.person("Marwick");
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

  private void whoIsSaidToBeTwoIsAskedAboutNoMore() throws Exception {
    var made = pay("P3,Tangen,Nora,employee,+47 555 10003,Mate");
    var row = client.json("imports", "rows", Lists.id(made), "--verdict=set-aside").at("/items/0");
    client.done("imports", "answer", Lists.id(made), row.path("line").asString(), "new");
    lists.release(made);
    var pair = client.json("people", "duplicates").at("/items/0");
    assertThat(pair.path("displayName").asString()).isEqualTo("Nora Tangen");

    client.done("people", "apart", pair.path("id").asString(), pair.at("/alike/id").asString());

    assertThat(client.json("people", "duplicates").path("items")).isEmpty();
  }

  private void whoASourceNamesTwiceIsNotMadeOneAndIsToldWhatToDo() {
    var refused = client.run("people", "merge", lists.person("Marwick"), lists.person("Holm"));
    assertThat(refused.exitCode()).isEqualTo(1);
    assertThat(refused.err()).contains("crew names both").contains("former key");
    var alone = client.run("people", "part", lists.person("Holm"), "crew", "1");
    assertThat(alone.err()).contains("known by key 1 of crew and no other");
    assertThat(client.run("people", "part", lists.person("Holm"), "crew", "55").err())
        .contains("There is no key of Ida Holm in crew 55");
  }

  private JsonNode crew(String... rows) throws IOException {
    return lists.bring("crew", HEADINGS, List.of(rows), "--complete");
  }

  private JsonNode pay(String... rows) throws IOException {
    return lists.bring("pay", PAY_HEADINGS, List.of(rows));
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

  private String keys(String person) {
    var keys = new ArrayList<String>();
    client
        .json("people", "keys", person)
        .path("items")
        .forEach(key -> keys.add(key.path("source").asString() + " " + key.path("key").asString()));
    return String.join(", ", keys);
  }
}
