package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Rules edited as chance has it: what a rehearsal shows is what is then found in the applications,
 * and what the forecast names of a day is what that day brings.
 */
public class ForetoldTest extends WithService {
  private static final long SEED = Chance.seed(20_261_130);
  private static final int PEOPLE = 24;
  private static final int EDITS = 10;
  private static final int DAYS = 7;
  private static final List<String> UNITS = List.of("Deck", "Engine", "Galley");
  private static final List<String> TITLES = List.of("Mate", "Cook", "Stoker");
  private static final List<String> KINDS = List.of("employee", "contractor", "seasonal");
  private static final Map<String, List<String>> GROUPS =
      Map.of(
          "directory", List.of("watch", "galley", "yard"),
          "mail-house", List.of("notices", "rosters"));

  private final Random random = new Random(SEED);
  private LocalDate today;

  /** Updates that a rehearsal showed. */
  private int retitled;

  @BeforeClass
  void bringPeople() throws Exception {
    // Chance takes more in a day than any guard would let pass.
    client.done("limits", "set", "accounts", "1");
    for (var group : GROUPS.get("directory")) {
      stage.directory().addGroup(group);
    }
    GROUPS.get("mail-house").forEach(stage.mailHouse().accounts()::addGroup);
    today = client.today();
    lists.source(
        "crew",
        100,
        "No",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Unit=department",
        "Job=title",
        "Start=startDate",
        "End=endDate",
        "Away=awayFrom",
        "Back=awayUntil");
    var rows = new ArrayList<String>();
    for (int i = 0; i < PEOPLE; i++) {
      rows.add(row(i));
    }
    lists.release(lists.bring("crew", "No,Family,Given,Kind,Unit,Job,Start,End,Away,Back", rows));
  }

  private String row(int number) {
    var away = random.nextInt(4) == 0 ? today.plusDays(random.nextInt(DAYS + 2) - 1L) : null;
    return String.join(
        ",",
        "N" + number,
        "Tern" + (char) ('a' + number),
        one(List.of("Ida", "Per", "Nora")),
        one(KINDS),
        one(UNITS),
        one(TITLES),
        today.plusDays(random.nextInt(30) - 10L).toString(),
        random.nextInt(3) == 0 ? today.plusDays(random.nextInt(20)).toString() : "",
        away == null ? "" : away.toString(),
        away == null ? "" : away.plusDays(1 + random.nextInt(4)).toString());
  }

  private <T> T one(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }

  /** An account as its application has it. */
  private record Found(boolean isOn, Set<String> groups, String title) {}

  /** Each step goes on from where the one before left off. */
  @Test
  public void whatIsForetoldOfRulesAndDaysIsWhatTheyBring() throws Exception {
    whatARehearsalShowsIsWhatTheApplicationsThenHave();
    whatTheForecastNamesOfADayIsWhatItBrings();
  }

  private void whatARehearsalShowsIsWhatTheApplicationsThenHave() throws Exception {
    for (int i = 0; i < EDITS; i++) {
      var application = one(List.copyOf(new TreeSet<>(GROUPS.keySet())));
      var rule = "chance-%s-%d".formatted(application, random.nextInt(2));
      var file = lists.file("rule.json", rule(application));
      var set = client.json("rules", "put", rule, file).path("id").asString();
      var expected = found();
      for (var change : changes(set)) {
        apply(expected, change);
      }

      client.done("changes", "release", set, "--reason=chance");
      client.settle();

      assertThat(found().entrySet())
          .as("edit %d, %s: %s, seed %d", i, rule, rule(set, rule), SEED)
          .containsExactlyInAnyOrderElementsOf(expected.entrySet());
    }
    assertThat(retitled).as("chance has left something to update, seed %d", SEED).isPositive();
  }

  private String rule(String application) {
    var condition =
        one(
            List.of(
                "true",
                "false",
                "person.department == '" + one(UNITS) + "'",
                "person.title == '" + one(TITLES) + "'",
                "person.userType != '" + one(KINDS) + "'",
                "person.department != '%s' || person.title == '%s'"
                    .formatted(one(UNITS), one(TITLES))));
    var groups =
        GROUPS.get(application).stream()
            .filter(_ -> random.nextBoolean())
            .map("\"%s\""::formatted)
            .collect(Collectors.joining(", "));
    var title =
        one(
            List.of(
                "",
                ", \"title\": \"person.title\"",
                ", \"title\": \"person.title + ', ' + person.department\""));
    var bound =
        switch (random.nextInt(3)) {
          case 0 ->
              ", \"from\": {\"attribute\": \"startDate\", \"days\": %d}"
                  .formatted(random.nextInt(5));
          case 1 ->
              ", \"until\": {\"day\": \"%s\", \"days\": 0}"
                  .formatted(today.plusDays(random.nextInt(DAYS)));
          default -> "";
        };
    return ("{\"application\": \"%s\", \"condition\": \"%s\", \"leadDays\": %d, \"groups\": [%s],"
            + " \"values\": {\"userName\": \"login\", \"name.familyName\": \"person.name.familyName\"%s}%s}")
        .formatted(application, condition, random.nextInt(3), groups, title, bound);
  }

  private JsonNode rule(String set, String name) {
    return client
        .json("rules", "list")
        .path("items")
        .valueStream()
        .filter(rule -> rule.path("name").asString().equals(name))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("Set %s left no rule".formatted(set)));
  }

  private List<JsonNode> changes(String set) {
    return client
        .json("changes", "show", set, "--all", "--limit=5000")
        .path("items")
        .valueStream()
        .toList();
  }

  private void apply(Map<String, Found> accounts, JsonNode change) {
    var key = key(change.path("application").asString(), login(change.path("person").asString()));
    var before = accounts.getOrDefault(key, new Found(false, Set.of(), ""));
    var groups = new TreeSet<>(before.groups());
    var what = change.path("what").asString();
    var isOn = before.isOn();
    var title = before.title();
    for (var edit : change.path("edits")) {
      if (edit.path("attribute").asString().equals("title")) {
        title = edit.path("after").asString("");
        retitled += change.path("kind").asString().equals("update") ? 1 : 0;
      }
    }
    switch (change.path("kind").asString()) {
      case "create" -> isOn = !what.endsWith("not usable yet");
      case "open", "return" -> isOn = true;
      case "suspend", "close" -> isOn = false;
      case "join" -> groups.add(what.replace("join group ", ""));
      case "leave" -> groups.remove(what.replace("leave group ", ""));
      case "update" -> {
        // What it edits stands above.
      }
      default -> throw new IllegalStateException("Nobody asked to " + what);
    }
    accounts.put(key, new Found(isOn, groups, title));
  }

  private static String key(String application, String login) {
    return application + " " + login;
  }

  private final Map<String, String> logins = new HashMap<>();

  private String login(String person) {
    return logins.computeIfAbsent(
        person, id -> client.json("people", "show", id).path("login").asString());
  }

  /** Everybody's accounts, asked of the applications themselves. */
  private Map<String, Found> found() throws Exception {
    var all = new TreeMap<String, Found>();
    var house = stage.mailHouse().accounts();
    for (var person : client.json("people", "list", "--limit=500").path("items")) {
      var login = login(person.path("id").asString());
      var account = house.byName(login);
      if (account != null) {
        var groups = new TreeSet<>(house.groupsOf(account.path("id").asText()));
        all.put(
            key("mail-house", login),
            new Found(
                account.path("active").asBoolean(), groups, account.path("title").asText("")));
      }
      var entry = stage.directory().person(login);
      if (entry != null) {
        var groups = new TreeSet<String>();
        for (var group : GROUPS.get("directory")) {
          if (stage.directory().members(group).contains(entry.getDN())) {
            groups.add(group);
          }
        }
        all.put(
            key("directory", login),
            new Found(
                "TRUE".equals(entry.getAttributeValue("loginAllowed")),
                groups,
                Objects.requireNonNullElse(entry.getAttributeValue("title"), "")));
      }
    }
    return all;
  }

  private void whatTheForecastNamesOfADayIsWhatItBrings() throws Exception {
    int foretoldInAll = 0;
    for (int i = 1; i <= DAYS; i++) {
      var day = today.plusDays(i);
      var foretold = foretold(day);
      foretoldInAll += foretold.size();
      var last = latestSet();

      client.done("clock", "--days=1");
      Eventually.waitUntil(
          "what was foretold of %s: %s, seed %d".formatted(day, foretold, SEED),
          () -> brought(last).containsAll(foretold));
      releaseWhatWaits(last);

      assertThat(brought(last)).as("%s, seed %d", day, SEED).isEqualTo(foretold);
    }
    assertThat(foretoldInAll).as("chance has left something to foretell").isGreaterThan(10);
  }

  /** What is taken from people by the end of a rule is let through by an operator. */
  private void releaseWhatWaits(long last) throws Exception {
    for (var set : datesSince(last)) {
      if (set.path("state").asString().equals("shown")) {
        client.done("changes", "release", set.path("id").asString(), "--reason=chance");
      }
    }
    client.settle();
  }

  private List<JsonNode> datesSince(long last) {
    return client
        .json("changes", "list", "--limit=100")
        .path("items")
        .valueStream()
        .filter(set -> set.path("id").asLong() > last)
        .filter(set -> set.path("cause").asString().equals("date"))
        .toList();
  }

  private Set<String> foretold(LocalDate day) {
    var foretold = new TreeSet<String>();
    for (var person : client.json("forecast", day.toString()).path("items")) {
      for (var step : person.path("steps")) {
        foretold.add(
            "%s %s %s"
                .formatted(
                    person.path("person").asString(),
                    step.path("application").asString(),
                    step.path("kind").asString()));
      }
    }
    return foretold;
  }

  private long latestSet() {
    return client.json("changes", "list", "--limit=1").at("/items/0/id").asLong();
  }

  /** What dates alone brought since a set. */
  private Set<String> brought(long last) {
    return datesSince(last).stream()
        .flatMap(set -> changes(set.path("id").asString()).stream())
        .map(
            change ->
                "%s %s %s"
                    .formatted(
                        change.path("person").asString(),
                        change.path("application").asString(),
                        change.path("kind").asString()))
        .collect(Collectors.toCollection(TreeSet::new));
  }
}
