package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Rules that are edited: shown first, then in force, and taken back. */
public class RulesTest {
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";
  private static final List<String> NAMES =
      List.of("Alder", "Birch", "Cedar", "Dogwood", "Elm", "Fir", "Gorse", "Hazel");
  private static final String RULE =
      """
      {"application": "directory", "condition": "%s", "leadDays": 0, "groups": ["%s"],
       "values": {"userName": "login", "name.familyName": "person.name.familyName"}}
      """;

  private Stage stage;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage, "--set=owners=given");
    for (var group : List.of("watch", "galley", "yard")) {
      stage.directory().addGroup(group);
    }
    var file = new StringBuilder(HEADINGS);
    for (int i = 0; i < 6; i++) {
      file.append(row(i, i < 3 ? "Deck" : "Catering"));
    }
    bring(file.toString());
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  private static String row(int number, String unit) {
    return "Z%d,%s,Ida,Mate,%s,Skerrow,,employee,z%d@post.example,,05.01.2026,,M1\n"
        .formatted(number, NAMES.get(number), unit, number);
  }

  private void bring(String file) throws Exception {
    var path = Files.writeString(stage.home().resolve("files/people.csv"), file);
    var made = client.json("imports", "add", path.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
  }

  private JsonNode put(String name, String condition, String group, String... more)
      throws IOException {
    var file =
        Files.writeString(
            stage.home().resolve("files/rule.json"), RULE.formatted(condition, group));
    var arguments = new String[4 + more.length];
    arguments[0] = "rules";
    arguments[1] = "put";
    arguments[2] = name;
    arguments[3] = file.toString();
    System.arraycopy(more, 0, arguments, 4, more.length);
    return client.json(arguments);
  }

  private boolean isInForce(String name) {
    return client
        .json("rules", "list")
        .path("items")
        .valueStream()
        .anyMatch(rule -> rule.path("name").asString().equals(name));
  }

  private List<String> in(String group) throws Exception {
    // A group there is never empty: Ebb's own entry is in it.
    return stage.directory().members(group).stream()
        .filter(member -> member.startsWith("uid="))
        .toList();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void aRuleGivesAndTakesWhatItIsReleasedForAndIsCountedByHands() throws Exception {
    aRuleGivesNothingBeforeItIsReleasedAndTakesAllBackWhenItIsTakenBack();
    aGroupInMoreHandsThanItMayBeStandsInNow();
  }

  private void aRuleGivesNothingBeforeItIsReleasedAndTakesAllBackWhenItIsTakenBack()
      throws Exception {
    var set = put("watch-for-deck", "person.department == 'Deck'", "watch", "--expect=3");
    assertThat(set.path("state").asString()).isEqualTo("shown");
    assertThat(set.path("stops").size()).isZero();
    assertThat(set.path("people").asInt()).isEqualTo(3);
    assertThat(set.path("counts").size()).as("nothing but what the rule changes").isEqualTo(1);
    assertThat(isInForce("watch-for-deck")).isFalse();

    client.done("people", "edit", person(0), "title=Bosun", "--release");
    client.settle();
    assertThat(in("watch")).as("nothing goes by another door").isEmpty();

    client.done("changes", "release", set.path("id").asString());
    client.settle();
    assertThat(isInForce("watch-for-deck")).isTrue();
    assertThat(in("watch")).hasSize(3);
    assertThat(client.done("groups", "holders", "watch"))
        .contains("Alder")
        .contains("watch-for-deck");
    assertThat(client.done("groups", "list"))
        .containsPattern("watch +directory +3 +3 +watch-for-deck");

    var back = client.json("changes", "take-back", set.path("id").asString());
    assertThat(back.path("people").asInt()).isEqualTo(3);
    assertThat(isInForce("watch-for-deck")).isTrue();
    client.done("changes", "release", back.path("id").asString(), "--reason=wrong watch");
    client.settle();
    assertThat(isInForce("watch-for-deck")).isFalse();
    assertThat(in("watch")).isEmpty();
  }

  private void aGroupInMoreHandsThanItMayBeStandsInNow() throws Exception {
    client.done(
        "groups", "mark", "yard", "--risk=full", "--opens=the cranes", "--most=2", "--reason=few");
    var set = put("yard-for-deck", "person.department == 'Deck'", "yard");
    client.done("changes", "release", set.path("id").asString(), "--reason=a trial");
    client.settle();

    assertThat(client.done("now"))
        .contains("3 accounts in use are in yard of directory; at most 2 may be");
    assertThat(client.done("groups", "list"))
        .containsPattern("yard .*yard-for-deck +full +the cranes +2");
    assertThat(client.done("groups", "holders", "yard"))
        .contains("3 accounts, 3 in use; 3 people of 1 units");
    var back = client.json("changes", "take-back", set.path("id").asString());
    client.done("changes", "release", back.path("id").asString(), "--reason=a trial");
    client.settle();
    assertThat(client.done("now")).doesNotContain("yard");
    client.done("applications", "sync", "directory");
    assertThat(client.done("groups", "list", "--empty"))
        .as("nobody is in it, and it may be dead")
        .contains("yard");
    client.done("groups", "mark", "yard");
    assertThat(client.done("groups", "list")).doesNotContain("the cranes");
    assertThat(client.run("groups", "mark", "yard", "--risk=huge", "--most=-1").err())
        .contains("huge");
  }

  @Test
  public void whatAnApplicationWillRefuseIsToldBeforeItIsSent() throws Exception {
    var file =
        Files.writeString(
            stage.home().resolve("files/nameless.json"),
            """
            {"application": "mail-house", "condition": "person.department == 'Deck'", "leadDays": 14,
             "values": {"userName": "''"}}
            """);

    var shown = client.json("rules", "put", "mail-for-employees", file.toString());
    var id = shown.path("id").asString();
    assertThat(client.done("changes", "show", id))
        .contains("KNOW     mail-house will refuse 3 accounts: they would be without userName.")
        .contains("All else of the set goes as shown");
    client.done("changes", "discard", id);
  }

  @Test
  public void whatSomebodyMayDoByAGroupWithinAGroupIsSaid() throws Exception {
    stage.directory().addGroup("harbour-keys");
    stage.directory().addGroup("pilots");
    stage.directory().nest("pilots", "harbour-keys");
    client.done("groups", "mark", "harbour-keys", "--risk=full", "--opens=every lock");
    client.done(
        "people",
        "grant",
        person(4),
        "--application=directory",
        "--group=pilots",
        "--reason=pilot",
        "--release");
    client.done("applications", "sync", "directory");

    assertThat(client.done("groups", "holders", "harbour-keys"))
        .containsPattern("Ida Elm .*pilots +grant")
        .contains("1 accounts, 1 in use");
    assertThat(client.done("people", "why", person(4)))
        .contains("every lock (harbour-keys, through pilots)");
    assertThat(client.done("groups", "list", "--empty")).doesNotContainPattern("(?m)^harbour-keys");
  }

  @Test
  public void thoseWhoRunAGroupAreGivenItByARule() throws Exception {
    client.done("applications", "sync", "directory");
    assertThat(client.done("groups", "list", "--empty"))
        .as("nobody runs it")
        .contains("owners of galley");
    var set = put("galley-runners", "person.department == 'Catering'", "owners of galley");
    assertThat(client.done("changes", "show", set.path("id").asString(), "--all"))
        .contains("join group owners of galley");
    client.done("changes", "release", set.path("id").asString());
    client.settle();

    var runners = set.path("people").asInt();
    assertThat(stage.directory().owners("galley")).hasSize(runners).isNotEmpty();
    assertThat(client.done("groups", "holders", "owners of galley"))
        .contains("galley-runners")
        .contains("%1$d accounts, %1$d in use".formatted(runners));
    var back = client.json("changes", "take-back", set.path("id").asString());
    client.done("changes", "release", back.path("id").asString(), "--reason=a trial");
    client.settle();
    assertThat(stage.directory().owners("galley")).isEmpty();
  }

  @DataProvider
  public Object[][] boundsAmiss() {
    return new Object[][] {
      {"{\"attribute\": \"title\", \"days\": 3}", "null", "People have no date title"},
      {"{\"days\": 3}", "null", "It is not said from what this rule counts"},
      {
        "{\"attribute\": \"startDate\", \"days\": 9}",
        "{\"attribute\": \"startDate\", \"days\": 3}",
        "The last day of this rule comes before its first"
      },
      {
        "{\"day\": \"2027-05-01\", \"days\": 0}",
        "{\"day\": \"2027-04-01\", \"days\": 0}",
        "The last day of this rule comes before its first"
      },
    };
  }

  @Test(dataProvider = "boundsAmiss")
  public void daysThatNobodyCouldCountAreRefused(String from, String until, String said)
      throws Exception {
    var file =
        Files.writeString(
            stage.home().resolve("files/bounds.json"),
            """
            {"application": "directory", "condition": "true", "values": {"userName": "login"},
             "from": %s, "until": %s}
            """
                .formatted(from, until));

    assertThat(client.run("rules", "put", "bounded", file.toString()).err()).contains(said);
  }

  @Test
  public void whereTwoRulesFillOneAttributeItIsSaidWhichWins() throws Exception {
    assertThat(client.done("rules", "show", "directory-for-all")).doesNotContain("sorts first");
    var file =
        Files.writeString(
            stage.home().resolve("files/other.json"),
            """
            {"application": "directory", "condition": "person.title == 'Nobody'",
             "values": {"userName": "'x' + login"}}
            """);
    client.done("rules", "put", "aaa-other", file.toString(), "--release");
    assertThat(client.done("rules", "show", "aaa-other"))
        .contains("userName is filled otherwise by directory-for-all")
        .contains("aaa-other wins: its name sorts first");
    client.done("rules", "remove", "aaa-other", "--release");
  }

  @Test
  public void whoComesBetweenTheRehearsalAndTheReleaseIsShownAfterIt() throws Exception {
    var set = put("galley-for-catering", "person.department == 'Catering'", "galley");
    assertThat(set.path("people").asInt()).isEqualTo(3);
    bring(HEADINGS + row(7, "Catering"));

    client.done("changes", "release", set.path("id").asString());
    client.settle();
    assertThat(in("galley")).hasSize(3);
    var title = "rule galley-for-catering: who came meanwhile";
    waitUntil("somebody is shown", () -> shown(title) != null);
    assertThat(shown(title).path("people").asInt()).isEqualTo(1);
    client.done("changes", "release", shown(title).path("id").asString());
    client.settle();
    assertThat(in("galley")).hasSize(4);
  }

  private JsonNode shown(String title) {
    return client
        .json("changes", "list", "--state=shown")
        .path("items")
        .valueStream()
        .filter(set -> set.path("title").asString().equals(title))
        .findFirst()
        .orElse(null);
  }

  @Test
  public void whatARuleBringsBeyondWhatGoesByItselfWaits() throws Exception {
    for (var group : List.of("crane", "winch")) {
      stage.directory().addGroup(group);
    }
    goesByItself("crane", 2);
    goesByItself("winch", 3);
    var today = client.today();
    var tomorrow = DateTimeFormatter.ofPattern("dd.MM.yyyy").format(today.plusDays(1));
    var trees = List.of("Juniper", "Kauri", "Larch", "Maple", "Nutmeg", "Oak");
    var file = new StringBuilder(HEADINGS);
    for (int i = 0; i < trees.size(); i++) {
      file.append(
          "Y%1$d,%2$s,Una,Mate,%3$s,Skerrow,,employee,y%1$d@post.example,,%4$s,,M1\n"
              .formatted(i, trees.get(i), i < 3 ? "crane" : "winch", tomorrow));
    }
    bring(file.toString());
    assertThat(in("winch")).as("not before their first day").isEmpty();

    client.done("clock", "--days=1");
    waitUntil("what may go by itself went", () -> in("winch").size() == 3);

    assertThat(in("crane")).as("three are more than two").isEmpty();
    assertThat(client.done("journal", "list", "--limit=50"))
        .contains("kept back what rule crane brings")
        .contains("with it, 3 people within a day");
    assertThat(client.done("now")).contains("With it, rule crane would change 3 people");
    var waiting = client.json("changes", "list", "--state=shown").at("/items/0");
    client.done("changes", "release", waiting.path("id").asString());
    client.settle();
    assertThat(in("crane")).hasSize(3);
  }

  /** A rule that puts a unit of the same name into a group, on the first day. */
  private void goesByItself(String group, int byItself) throws IOException {
    var file =
        Files.writeString(
            stage.home().resolve("files/by-itself.json"),
            """
            {"application": "directory", "condition": "person.department == '%1$s'",
             "groups": ["%1$s"], "byItself": %2$d, "values": {}}
            """
                .formatted(group, byItself));
    client.done("rules", "put", group, file.toString(), "--release");
  }

  @Test
  public void aRuleThatMeetsOthersThanExpectedIsStopped() throws Exception {
    var set = put("yard-for-all", "true", "yard", "--expect=2");
    assertThat(set.at("/stops/0/code").asString()).isEqualTo("rule-not-as-expected");
    var refused = client.run("changes", "release", set.path("id").asString());
    assertThat(refused.err()).contains("2 were expected");
    client.done("changes", "discard", set.path("id").asString());
    assertThat(isInForce("yard-for-all")).isFalse();
  }

  @Test
  public void aRuleIsReleasedWhole() throws Exception {
    var set = put("yard-for-some", "person.department == 'Deck'", "yard");
    var refused = client.run("changes", "release", set.path("id").asString(), "--first=1");
    assertThat(refused.err()).contains("holds for everybody or nobody");
    client.done("changes", "discard", set.path("id").asString());
  }

  @Test
  public void anEditGivesWayToTheNextAndIsRefusedWhereTheRuleIsAnotherByNow() throws Exception {
    var first = put("twice", "person.department == 'Deck'", "yard");
    var second = put("twice", "person.department == 'Catering'", "yard");
    assertThat(state(first)).isEqualTo("discarded");
    assertThat(client.run("changes", "release", first.path("id").asString()).err())
        .contains("discarded");
    client.done("changes", "discard", second.path("id").asString());
  }

  private String state(JsonNode set) {
    return client.json("changes", "show", set.path("id").asString()).path("state").asString();
  }

  @Test
  public void allThatIsWrongWithARuleIsSaidAtOnce() throws Exception {
    var file =
        Files.writeString(
            stage.home().resolve("files/wrong.json"),
            """
            {"application": "nowhere", "condition": "person.departmnt == 'Deck'",
             "values": {"userName": "login +", "title": "1 + person.title"}}
            """);
    var refused = client.run("rules", "put", "wrong", file.toString()).err();
    assertThat(refused)
        .contains("There is no application nowhere")
        .contains("no attribute departmnt")
        .contains("Perhaps department was meant")
        .contains("login +");
  }

  @Test
  public void forWhomAConditionHoldsIsCountedAndWhomItCannotBeComputedForIsSaid() {
    var said = client.done("rules", "match", "person.department in ['Deck']");
    assertThat(said).contains("everyone whose unit is one of Deck: 3 of ").contains("Alder");
    assertThat(client.done("rules", "match", "1 / (size(person.title) - 4) > 7"))
        .contains("cannot be computed");
  }

  @Test
  public void whySomebodyGetsNothingIsSaidPartByPart() throws Exception {
    var contractor = row(6, "Yard").replace("employee", "contractor");
    bring(HEADINGS + contractor);
    assertThat(client.done("people", "why", person(6)))
        .contains("rule mail-for-employees: their kind is contractor, and must not be contractor");
  }

  private String person(int number) {
    return client
        .json("people", "list", "--filter=name.familyName eq \"%s\"".formatted(NAMES.get(number)))
        .at("/items/0/id")
        .asString();
  }
}
