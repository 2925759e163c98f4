package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.standins.Faults.Kind;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Updates, memberships, suspensions and deletions, in a SCIM application and in directories, while
 * answers are lost, connections break and the service is killed: each has its effect, and SCIM is
 * sent it once.
 */
public class LostChangesTest extends WithService {
  private static final int PEOPLE = 40;
  private static final String WATCH = "night-watch";
  private static final String HEADINGS = "No,Family,Given,Kind,Job,End,Boss";

  /** After that nobody is waited for any more. */
  private static final int LONG = 40;

  private Harbour harbour;

  @BeforeClass(dependsOnMethods = "startService")
  void bringPeople() throws Exception {
    // What happens here to all at once is more than a guard lets pass.
    client.done("limits", "set", "accounts", "1");
    stage.directory().addGroup(WATCH);
    stage.mailHouse().accounts().addGroup(WATCH);
    harbour = new Harbour(client);
    lists.source(
        "crew",
        100,
        "No",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Job=title",
        "End=endDate",
        "Boss=manager");
    lists.release(lists.bring("crew", HEADINGS, rows("Mate", "")));
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(PEOPLE);
    assertThat(harbour.people()).isEqualTo(PEOPLE);
  }

  @AfterClass(alwaysRun = true)
  void stopHarbour() throws Exception {
    if (harbour != null) {
      harbour.close();
    }
  }

  @AfterMethod(alwaysRun = true)
  void wellAgain() {
    stage.mailHouse().faults().clear();
    stage.mailHouse().manners().delay(Duration.ZERO);
  }

  private static List<String> rows(String job, String end) {
    var rows = new ArrayList<String>();
    for (int i = 0; i < PEOPLE; i++) {
      rows.add("K%d,%s,Ida,employee,%s,%s,".formatted(i, family(i), job, end));
    }
    return rows;
  }

  private static String family(int i) {
    return "Tern" + (char) ('a' + i / 26) + (char) ('a' + i % 26);
  }

  private static String login(int i) {
    return "ida." + family(i).toLowerCase(java.util.Locale.ROOT);
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void everyKindOfChangeHasItsEffectOnceWhateverIsLost() throws Exception {
    valuesAreUpdated();
    accountsJoinAndLeaveAGroup();
    accountsAreSuspendedAndComeBack();
    accountsAreDeleted();
  }

  private void valuesAreUpdated() throws Exception {
    disturbed(Kind.CUT_AFTER_WRITE, Kind.TRUNCATED, Kind.FAILS_AFTER_WRITE);
    carriedOutThroughAKill(changeSet(lists.bring("crew", HEADINGS, rows("Bosun", ""))));

    for (int i = 0; i < PEOPLE; i++) {
      assertThat(stage.mailHouse().accounts().byName(login(i)).path("title").asText())
          .as(login(i))
          .isEqualTo("Bosun");
      assertThat(stage.directory().person(login(i)).getAttributeValue("title"))
          .as(login(i))
          .isEqualTo("Bosun");
    }
    inStepEverywhere();
  }

  private void accountsJoinAndLeaveAGroup() throws Exception {
    for (var application : List.of("mail-house", "directory")) {
      var rule =
          """
          {"application": "%s", "condition": "true", "leadDays": 14, "groups": ["%s"],
           "values": {"userName": "login"}}
          """
              .formatted(application, WATCH);
      disturbed(Kind.CUT_AFTER_WRITE, Kind.FAILS_AFTER_WRITE);
      var set =
          client
              .json("rules", "put", "watch-" + application, lists.file("watch.json", rule))
              .path("id")
              .asString();
      if (application.equals("directory")) {
        carriedOutThroughAKill(set);
      } else {
        carriedOut(set);
      }
    }
    assertThat(inWatch()).containsEntry("mail-house", PEOPLE).containsEntry("directory", PEOPLE);

    for (var application : List.of("mail-house", "directory")) {
      disturbed(Kind.CUT_AFTER_WRITE, Kind.TRUNCATED);
      carriedOut(client.json("rules", "remove", "watch-" + application).path("id").asString());
    }
    assertThat(inWatch()).containsEntry("mail-house", 0).containsEntry("directory", 0);
    inStepEverywhere();
  }

  /** How many hold it in each application. */
  private Map<String, Integer> inWatch() throws Exception {
    var counts = new TreeMap<String, Integer>();
    var house = stage.mailHouse().accounts();
    int inHouse = 0;
    for (int i = 0; i < PEOPLE; i++) {
      var groups = house.groupsOf(house.byName(login(i)).path("id").asText());
      assertThat(groups).as(login(i)).doesNotHaveDuplicates();
      inHouse += groups.contains(WATCH) ? 1 : 0;
    }
    counts.put("mail-house", inHouse);
    var crew =
        stage.directory().members(WATCH).stream().filter(one -> one.contains("uid=ida.")).toList();
    assertThat(crew).doesNotHaveDuplicates();
    counts.put("directory", crew.size());
    return counts;
  }

  private void accountsAreSuspendedAndComeBack() throws Exception {
    disturbed(Kind.CUT_AFTER_WRITE, Kind.TRUNCATED, Kind.FAILS_AFTER_WRITE);
    var yesterday = client.today().minusDays(1).toString();
    carriedOutThroughAKill(changeSet(lists.bring("crew", HEADINGS, rows("Bosun", yesterday))));
    assertThat(usable()).isZero();

    disturbed(Kind.CUT_AFTER_WRITE, Kind.TRUNCATED, Kind.FAILS_AFTER_WRITE);
    carriedOut(changeSet(lists.bring("crew", HEADINGS, rows("Bosun", ""))));
    assertThat(usable()).as("in three applications").isEqualTo(3 * PEOPLE);
    inStepEverywhere();
  }

  /** All leave but the first, who gets what they had. */
  private void accountsAreDeleted() throws Exception {
    var yesterday = client.today().minusDays(1).toString();
    var rows = new ArrayList<String>();
    rows.add("K0,%s,Ida,employee,Bosun,,".formatted(family(0)));
    for (int i = 1; i < PEOPLE; i++) {
      rows.add("K%d,%s,Ida,employee,Bosun,%s,K0".formatted(i, family(i), yesterday));
    }
    carriedOut(changeSet(lists.bring("crew", HEADINGS, rows)));
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(PEOPLE);

    disturbed(Kind.CUT_AFTER_WRITE, Kind.TRUNCATED, Kind.FAILS_AFTER_WRITE);
    client.done("clock", "--days=" + LONG);
    waitUntil("some are deleted", () -> stage.mailHouse().accounts().count() < PEOPLE - PEOPLE / 4);
    stage.killService();
    stage.startService();
    stage.mailHouse().manners().delay(Duration.ZERO);
    client.settle();
    waitUntil("all but one are deleted", () -> stage.mailHouse().accounts().count() == 1);
    client.settle();

    assertThat(stage.mailHouse().accounts().byName(login(0)).path("active").asBoolean()).isTrue();
    assertThat(
            stage.mailHouse().writes().stream()
                .filter(one -> one.startsWith("DELETE /scim/v2/Users/")))
        .hasSize(PEOPLE - 1)
        .doesNotHaveDuplicates();
    for (int i = 1; i < PEOPLE; i++) {
      assertThat(stage.directory().person(login(i))).as(login(i)).isNull();
    }
    inStepEverywhere();
  }

  private int usable() throws Exception {
    int usable = 0;
    for (int i = 0; i < PEOPLE; i++) {
      usable += stage.mailHouse().accounts().byName(login(i)).path("active").asBoolean() ? 1 : 0;
      usable += isAllowed(stage.directory().person(login(i)).getAttributeValue("loginAllowed"));
      usable += isAllowed(harbour.entryOf(login(i)).getAttributeValue("loginAllowed"));
    }
    return usable;
  }

  private static int isAllowed(String value) {
    return "TRUE".equals(value) ? 1 : 0;
  }

  private static String changeSet(tools.jackson.databind.JsonNode made) {
    return made.path("changeSet").asString();
  }

  /** Answers that are lost after the house did what was asked; and a house that takes its time. */
  private void disturbed(Kind... kinds) {
    for (var kind : kinds) {
      stage.mailHouse().faults().order(kind, "/scim/v2/", 2);
    }
    stage.mailHouse().manners().delay(Duration.ofMillis(15));
  }

  /**
   * Releases a set; once some of it is done, a directory goes away and the service is killed. What
   * was sent to the house is sent once.
   */
  private void carriedOutThroughAKill(String set) throws Exception {
    client.done("changes", "release", set, "--no-wait", "--reason=a trial");
    waitUntil("some of it is done", () -> done(set) > PEOPLE / 4);
    harbour.slapd().stop();
    stage.killService();
    stage.startService();
    harbour.slapd().resume();
    stage.mailHouse().manners().delay(Duration.ZERO);
    client.settle();
    stage.mailHouse().faults().clear();
    assertThat(states(set)).as("set %s", set).containsOnlyKeys("seen");
  }

  /** Releases a set whose answers are lost, and nothing else. */
  private void carriedOut(String set) throws Exception {
    client.done("changes", "release", set, "--no-wait", "--reason=a trial");
    client.settle();
    stage.mailHouse().faults().clear();
    stage.mailHouse().manners().delay(Duration.ZERO);
    assertThat(states(set)).as("set %s", set).containsOnlyKeys("seen");
  }

  private long done(String set) {
    return states(set).getOrDefault("seen", 0L);
  }

  private Map<String, Long> states(String set) {
    var states = new TreeMap<String, Long>();
    for (var count : client.json("changes", "show", set).path("counts")) {
      states.merge(count.path("state").asString(), count.path("count").asLong(), Long::sum);
    }
    return states;
  }

  /** Whole readings find nothing to put right. */
  private void inStepEverywhere() {
    stage.mailHouse().faults().clear();
    for (var application : List.of("mail-house", "directory", Harbour.NAME)) {
      var read = client.json("applications", "sync", application, "--everything");
      assertThat(read.path("drifted").asInt()).as(application).isZero();
      assertThat(read.path("missing").asInt()).as(application).isZero();
    }
  }
}
