package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Days of an organisation as chance has them: people join, are renamed, get other keys, come back,
 * stand in the file twice or not at all, and some days are taken back and let through again.
 * Whoever answers knows the truth; in the end nobody is there twice, and nobody is lost.
 */
public class RandomDaysTest {
  private static final String HEADINGS = "No,Family,Given,Kind,Mobile,Start\n";
  private static final long SEED = Chance.seed(20_261_123);
  private static final int DAYS = 7;
  private static final int AT_FIRST = 25;

  /** Somebody in truth. */
  private static final class Human {
    String key;
    String family;
    final String given;
    final String mobile;
    final String start;
    String secondKey;
    String saidFamily;
    boolean isGone;
    boolean isForgotten;

    Human(int number, Random random) {
      key = "K" + number;
      family = word(random);
      given = word(random);
      mobile = "+47 4%07d".formatted(1_000_000 + number);
      start = "20%02d-03-%02d".formatted(random.nextInt(24), 1 + random.nextInt(28));
    }
  }

  private final Random random = new Random(SEED);
  private final List<Human> humans = new ArrayList<>();
  private final Map<Human, String> persons = new HashMap<>();
  private Stage stage;
  private Client client;
  private int keys = 1_000;

  /** What chance gave to be judged. */
  private int answered;

  private int decided;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    client.done(
        "sources",
        "put",
        "crew",
        file(
            "crew.json",
            """
            {"rank": 100, "key": "No", "columns": {"Family": "name.familyName",
             "Given": "name.givenName", "Kind": "userType", "Mobile": "phoneNumbers.mobile",
             "Start": "startDate"}}
            """));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void nobodyIsDoubledAndNobodyLost() throws Exception {
    for (int i = 0; i < AT_FIRST; i++) {
      humans.add(new Human(i, random));
    }
    for (int day = 0; day < DAYS; day++) {
      if (day > 0) {
        happenings();
      }
      live(day);
    }
    assertThat(answered).as("rows that were asked about, seed %d", SEED).isPositive();
    assertThat(decided).as("missing people, seed %d", SEED).isPositive();
    // Who joined and left between two files is nobody's business here.
    humans.removeIf(human -> human.saidFamily == null);
    assertThat(stage.mailHouse().accounts().count())
        .as("an account for each of %d humans, seed %d", humans.size(), SEED)
        .isEqualTo(humans.size());
    var people = client.json("people", "list", "--limit=500").path("items");
    assertThat(people.size()).as("people, seed %d", SEED).isEqualTo(humans.size());
    for (var human : humans) {
      var person = client.json("people", "show", persons.get(human));
      assertThat(valueOf(person, "name.familyName"))
          .as("%s %s, seed %d", human.given, human.family, SEED)
          .isEqualTo(human.saidFamily);
      var stage = person.path("stage").asString();
      assertThat(stage.equals("departed"))
          .as("%s %s is %s, seed %d", human.given, human.family, stage, SEED)
          .isEqualTo(human.isGone);
    }
  }

  private static String valueOf(JsonNode person, String attribute) {
    return person.path("attributes").path(attribute).path("value").asString("");
  }

  private void happenings() {
    humans.forEach(
        human -> {
          human.secondKey = null;
          human.isForgotten = false;
        });
    for (int i = 0; i < 4; i++) {
      var human = humans.get(random.nextInt(humans.size()));
      switch (random.nextInt(7)) {
        case 0 -> humans.add(new Human(humans.size(), random));
        case 1 -> human.family = human.isGone ? human.family : word(random);
        case 2 -> human.key = human.isGone ? human.key : "K" + keys++;
        case 3 -> {
          if (!human.isGone) {
            human.key = "K" + keys++;
            human.family = word(random);
          }
        }
        case 4 -> human.isGone = !human.isGone;
        case 5 -> human.secondKey = human.isGone ? null : "K" + keys++;
        default -> human.isForgotten = !human.isGone;
      }
    }
  }

  /** One day: the file, the answers, the release; and now and then the other way round as well. */
  private void live(int day) throws Exception {
    var rows = new ArrayList<String>();
    var whose = new HashMap<String, Human>();
    for (var human : humans) {
      if (!human.isGone && !human.isForgotten) {
        rows.add(row(human, human.key));
        human.saidFamily = human.family;
        whose.put(human.key, human);
        if (human.secondKey != null) {
          rows.add(row(human, human.secondKey));
          whose.put(human.secondKey, human);
        }
      }
    }
    Collections.shuffle(rows, random);
    var made =
        client.json(
            "imports",
            "add",
            file("day-%d.csv".formatted(day), HEADINGS + String.join("", rows)),
            "--source=crew",
            "--complete");
    answer(made, whose);
    var set = made.path("changeSet").asString();
    client.done("changes", "release", set, "--reason=chance");
    client.settle();
    if (day > 0 && random.nextInt(4) == 0) {
      thereAndBack(set);
    }
    learn();
  }

  /**
   * Taken back, and let through again; a day on which nothing happened has nothing to take back.
   */
  private void thereAndBack(String set) throws Exception {
    var taken = client.run("changes", "take-back", set, "--release");
    if (taken.exitCode() != 0) {
      assertThat(taken.err()).contains("left no inputs that still stand");
      return;
    }
    client.settle();
    var back = client.json("changes", "show", set).path("takenBackBy").asString();
    client.done("changes", "take-back", back, "--release");
    client.settle();
  }

  private void answer(JsonNode made, Map<String, Human> whose) {
    var id = made.path("id").asString();
    for (var row : list("imports", "rows", id, "--verdict=set-aside", "--limit=500")) {
      var human = whose.get(row.path("key").asString());
      var person = persons.get(human);
      var answer =
          row.at("/resembles/0/reasons").toString().contains("of this file")
              ? "same:" + row.at("/resembles/0/person").asString()
              : "new";
      if (person != null) {
        answer = "same:" + person;
        assertThat(row.path("resembles").valueStream().map(like -> like.path("person").asString()))
            .as("line %s is offered for what it is, seed %d", row.path("line"), SEED)
            .contains(person);
      }
      client.done("imports", "answer", id, row.path("line").asString(), answer);
      answered++;
    }
    for (var missing : list("imports", "missing", id, "--limit=500")) {
      var human =
          humans.stream()
              .filter(one -> missing.path("person").asString().equals(persons.get(one)))
              .findFirst()
              .orElseThrow();
      client.done(
          "imports",
          "decide",
          id,
          missing.path("key").asString(),
          human.isGone ? "leaver" : "still-here");
      decided++;
    }
  }

  /** Who is who in Ebb: by the telephone, which nobody changes here. */
  private void learn() {
    for (var person : list("people", "list", "--limit=500")) {
      var id = person.path("id").asString();
      var mobile = valueOf(client.json("people", "show", id), "phoneNumbers.mobile");
      humans.stream()
          .filter(human -> human.mobile.equals(mobile))
          .findFirst()
          .ifPresent(human -> persons.put(human, id));
    }
  }

  private List<JsonNode> list(String... command) {
    return client.json(command).path("items").valueStream().toList();
  }

  private static String row(Human human, String key) {
    return "%s,%s,%s,employee,%s,%s\n"
        .formatted(key, human.family, human.given, human.mobile, human.start);
  }

  private static String word(Random random) {
    var letters = new StringBuilder();
    for (int i = 0; i < 7; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }
}
