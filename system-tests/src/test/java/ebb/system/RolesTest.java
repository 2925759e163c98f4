package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Scenario;
import ebb.demo.Stage;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Every endpoint of the description, asked by every role. */
public class RolesTest {
  private static final List<String> ROLES =
      List.of("auditor", "helpdesk", "steward", "administrator");
  private static final Set<String> ALL = Set.copyOf(ROLES);
  private static final Set<String> LOOKS = Set.of("auditor", "steward", "administrator");
  private static final Set<String> EDITS = Set.of("steward", "administrator");
  private static final Set<String> ADMINISTERS = Set.of("administrator");

  /** The table of who may do what, endpoint by endpoint; written here independently of the code. */
  private static final Map<String, Set<String>> MAY =
      Map.ofEntries(
          Map.entry("put /api/v1/session/password", ALL),
          Map.entry("post /api/v1/session/second-factor", ALL),
          Map.entry("put /api/v1/session/second-factor", ALL),
          Map.entry("post /api/v1/session/second-factor/end", ALL),
          Map.entry("get /api/v1/people", ALL),
          Map.entry("get /api/v1/people/values", ALL),
          Map.entry("get /api/v1/people/{id}", ALL),
          Map.entry("get /api/v1/people/{id}/picture", ALL),
          Map.entry("get /api/v1/people/{id}/timeline", ALL),
          Map.entry("get /api/v1/people/{id}/why", ALL),
          Map.entry("get /api/v1/people/{id}/references", ALL),
          Map.entry("get /api/v1/people/{id}/keys", ALL),
          Map.entry("get /api/v1/people/{id}/alike", ALL),
          Map.entry("get /api/v1/conflicts", ALL),
          Map.entry("get /api/v1/people/duplicates", LOOKS),
          Map.entry("get /api/v1/sources/{name}/retirement", LOOKS),
          Map.entry("post /api/v1/sources/{name}/retirement", ADMINISTERS),
          Map.entry("post /api/v1/people/{id}/merge", EDITS),
          Map.entry("post /api/v1/people/{id}/part", EDITS),
          Map.entry("post /api/v1/people/{id}/apart", EDITS),
          Map.entry("put /api/v1/conflicts/{person}/{attribute}", EDITS),
          Map.entry("get /api/v1/find", ALL),
          Map.entry("get /api/v1/now", ALL),
          Map.entry("get /api/v1/work", ALL),
          Map.entry("get /api/v1/clock", ALL),
          Map.entry("get /api/v1/events", ALL),
          Map.entry("get /api/v1/notices", ALL),
          Map.entry("get /api/v1/journal", ALL),
          Map.entry("get /api/v1/journal/verification", ALL),
          Map.entry("get /api/v1/change-sets", ALL),
          Map.entry("get /api/v1/change-sets/{id}", ALL),
          Map.entry("get /api/v1/change-sets/{id}/changes", ALL),
          Map.entry("get /api/v1/change-sets/{id}/people", ALL),
          Map.entry("get /api/v1/change-sets/{id}/events", ALL),
          Map.entry("get /api/v1/applications/{name}/dormant", ALL),
          Map.entry("post /api/v1/applications/{name}/dormant/look", EDITS),
          Map.entry("post /api/v1/applications/{name}/dormant/asks", EDITS),
          Map.entry("get /api/v1/applications/{name}/off", ALL),
          Map.entry("post /api/v1/applications/{name}/removals", EDITS),
          Map.entry("get /api/v1/people/{id}/sign-ins", ALL),
          Map.entry("get /api/v1/suspensions", ALL),
          Map.entry("post /api/v1/suspensions", EDITS),
          Map.entry("post /api/v1/suspensions/check", EDITS),
          Map.entry("post /api/v1/suspensions/returns", EDITS),
          Map.entry("post /api/v1/suspensions/returns/check", EDITS),
          Map.entry("put /api/v1/suspensions/{id}", EDITS),
          Map.entry("get /api/v1/people/{id}/ways-in", ALL),
          Map.entry("post /api/v1/people/{id}/ways-in/look", ALL),
          Map.entry(
              "post /api/v1/people/{id}/ways-in/shut",
              Set.of("helpdesk", "steward", "administrator")),
          Map.entry("post /api/v1/people/{id}/ways-in/waivers", EDITS),
          Map.entry("get /api/v1/departures", ALL),
          Map.entry("post /api/v1/departures", EDITS),
          Map.entry("get /api/v1/departures/{id}/accounts/{account}/items", ALL),
          Map.entry("post /api/v1/departures/{id}/accounts/{account}/opened", ADMINISTERS),
          Map.entry("post /api/v1/departures/{id}/left-out", EDITS),
          Map.entry("post /api/v1/departures/{id}/approvals", ADMINISTERS),
          Map.entry("post /api/v1/departures/{id}/confirmation", EDITS),
          Map.entry("post /api/v1/departures/{id}/pause", EDITS),
          Map.entry("post /api/v1/departures/{id}/go-on", EDITS),
          Map.entry("put /api/v1/departures/{id}/dates", EDITS),
          Map.entry("get /api/v1/procedures", LOOKS),
          Map.entry("put /api/v1/procedures/{kind}", ADMINISTERS),
          Map.entry("delete /api/v1/procedures/{kind}", ADMINISTERS),
          Map.entry("get /api/v1/departures/{id}", ALL),
          Map.entry("get /api/v1/applications/{name}/accounts", ALL),
          Map.entry("get /api/v1/people/export", LOOKS),
          Map.entry("get /api/v1/imports", LOOKS),
          Map.entry("get /api/v1/imports/{id}", LOOKS),
          Map.entry("get /api/v1/imports/{id}/rows", LOOKS),
          Map.entry("get /api/v1/imports/{id}/missing", LOOKS),
          Map.entry("get /api/v1/imports/{id}/mapping", LOOKS),
          Map.entry("get /api/v1/imports/{id}/problems", LOOKS),
          Map.entry("get /api/v1/imports/{id}/report", LOOKS),
          Map.entry("get /api/v1/imports/{id}/refused", LOOKS),
          Map.entry("get /api/v1/imports/template", LOOKS),
          Map.entry("get /api/v1/imports/{id}/linked", LOOKS),
          Map.entry("get /api/v1/imports/{id}/linked/{file}", LOOKS),
          Map.entry("get /api/v1/attributes", LOOKS),
          Map.entry("get /api/v1/sources/{name}/mappings", LOOKS),
          Map.entry("get /api/v1/applications", LOOKS),
          Map.entry("get /api/v1/applications/{name}", LOOKS),
          Map.entry("get /api/v1/feeds", LOOKS),
          Map.entry("get /api/v1/feeds/{source}", LOOKS),
          Map.entry("get /api/v1/feeds/{source}/runs", LOOKS),
          Map.entry("put /api/v1/feeds/{source}", ADMINISTERS),
          Map.entry("post /api/v1/feeds/{source}/on", ADMINISTERS),
          Map.entry("post /api/v1/feeds/{source}/token", ADMINISTERS),
          Map.entry("post /api/v1/feeds/{source}/pause", ADMINISTERS),
          Map.entry("post /api/v1/feeds/{source}/run", EDITS),
          Map.entry("post /api/v1/feeds/{source}/test", EDITS),
          Map.entry("get /api/v1/group-marks", LOOKS),
          Map.entry("put /api/v1/group-marks/{name}", ADMINISTERS),
          Map.entry("get /api/v1/login-schemes", LOOKS),
          Map.entry("put /api/v1/login-schemes/{name}", ADMINISTERS),
          Map.entry("post /api/v1/login-schemes/{name}/try", LOOKS),
          Map.entry("get /api/v1/limits", LOOKS),
          Map.entry("put /api/v1/limits/{name}", ADMINISTERS),
          Map.entry("get /api/v1/sources", LOOKS),
          Map.entry("get /api/v1/sources/{name}", LOOKS),
          Map.entry("get /api/v1/people/oddities", ALL),
          Map.entry("get /api/v1/people/oddities/{kind}", ALL),
          Map.entry("get /api/v1/units", ALL),
          Map.entry("get /api/v1/groups", ALL),
          Map.entry("get /api/v1/groups/earlier-items", ALL),
          Map.entry("post /api/v1/groups/earlier-items/catch-up", EDITS),
          Map.entry("get /api/v1/groups/holders", ALL),
          Map.entry("get /api/v1/groups/reach", ALL),
          Map.entry("get /api/v1/forecast", ALL),
          Map.entry("get /api/v1/change-sets/{id}/effects", ALL),
          Map.entry("post /api/v1/people/{id}/rename", EDITS),
          Map.entry("post /api/v1/people/{id}/rename/preview", EDITS),
          Map.entry("get /api/v1/forecast/{day}", ALL),
          Map.entry("get /api/v1/rules", LOOKS),
          Map.entry("get /api/v1/rules/{name}", LOOKS),
          Map.entry(
              "post /api/v1/people/{id}/reset", Set.of("helpdesk", "steward", "administrator")),
          Map.entry("post /api/v1/people/resets", Set.of("helpdesk", "steward", "administrator")),
          Map.entry("get /api/v1/emergency-stops", ALL),
          Map.entry("get /api/v1/people/{id}/emergency-stop", ALL),
          Map.entry(
              "post /api/v1/people/{id}/emergency-stop",
              Set.of("helpdesk", "steward", "administrator")),
          Map.entry("post /api/v1/people/{id}/emergency-stop/lift", EDITS),
          Map.entry("post /api/v1/people", EDITS),
          Map.entry("patch /api/v1/people/{id}", EDITS),
          Map.entry("post /api/v1/people/edits", EDITS),
          Map.entry("post /api/v1/people/{id}/grants", EDITS),
          Map.entry("delete /api/v1/people/{id}/grants/{grant}", EDITS),
          Map.entry("post /api/v1/people/{id}/holds", EDITS),
          Map.entry("post /api/v1/imports", EDITS),
          Map.entry("put /api/v1/imports/{id}/rows/{line}/answer", EDITS),
          Map.entry("put /api/v1/imports/{id}/missing/{key}", EDITS),
          Map.entry("put /api/v1/imports/{id}/mapping", EDITS),
          Map.entry("put /api/v1/imports/{id}/rows/{line}/mend", EDITS),
          Map.entry("put /api/v1/imports/{id}/codes", EDITS),
          Map.entry("post /api/v1/change-sets/{id}/go-on", EDITS),
          Map.entry("post /api/v1/applications/{name}/sync", EDITS),
          Map.entry("get /api/v1/applications/{name}/syncs", LOOKS),
          Map.entry("get /api/v1/applications/{name}/groups", ALL),
          Map.entry("get /api/v1/comparison", LOOKS),
          Map.entry("post /api/v1/applications/{name}/groups/keep-members", EDITS),
          Map.entry("post /api/v1/applications/{name}/groups/leave-alone", EDITS),
          Map.entry("get /api/v1/comparison/people", ALL),
          Map.entry("get /api/v1/applications/{name}/findings", LOOKS),
          Map.entry("get /api/v1/applications/{name}/findings/{kind}", ALL),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/put-right", EDITS),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/take", EDITS),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/link", EDITS),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/adopt", EDITS),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/leave-alone", EDITS),
          Map.entry("post /api/v1/applications/{name}/findings/{kind}/keep", EDITS),
          Map.entry("get /api/v1/accounts/{id}", ALL),
          Map.entry("get /api/v1/accounts/{id}/details", ALL),
          Map.entry("get /api/v1/accounts/{id}/candidates", EDITS),
          Map.entry("post /api/v1/accounts/{id}/link", EDITS),
          Map.entry("post /api/v1/accounts/{id}/unlink", EDITS),
          Map.entry("post /api/v1/accounts/{id}/leave-alone", EDITS),
          Map.entry("post /api/v1/accounts/{id}/keep", EDITS),
          Map.entry("post /api/v1/accounts/{id}/take", EDITS),
          Map.entry("post /api/v1/applications/{name}/pause", EDITS),
          Map.entry("post /api/v1/applications/{name}/go-on", EDITS),
          Map.entry("post /api/v1/execution/stop", EDITS),
          Map.entry("post /api/v1/execution/go-on", EDITS),
          Map.entry("get /api/v1/execution", LOOKS),
          Map.entry("get /api/v1/changes/{id}/attempts", ALL),
          Map.entry("post /api/v1/applications/{name}/inspect", LOOKS),
          Map.entry("get /api/v1/applications/{name}/seats", LOOKS),
          Map.entry("post /api/v1/applications/{name}/try", ADMINISTERS),
          Map.entry("post /api/v1/secrets/rotation", ADMINISTERS),
          Map.entry("post /api/v1/change-sets/{id}/release", EDITS),
          Map.entry("post /api/v1/change-sets/{id}/discard", EDITS),
          Map.entry("post /api/v1/change-sets/{id}/retry", EDITS),
          Map.entry("post /api/v1/change-sets/{id}/take-back", EDITS),
          Map.entry("put /api/v1/departures/{id}/recipient", EDITS),
          Map.entry("post /api/v1/departures/{id}/waivers", EDITS),
          Map.entry("post /api/v1/departures/{id}/retry", EDITS),
          Map.entry("delete /api/v1/people/{id}/holds/{hold}", ADMINISTERS),
          Map.entry("put /api/v1/applications/{name}", ADMINISTERS),
          Map.entry("put /api/v1/sources/{name}", ADMINISTERS),
          Map.entry("put /api/v1/attributes/{name}", ADMINISTERS),
          Map.entry("post /api/v1/rules", ADMINISTERS),
          Map.entry("put /api/v1/rules/{name}", ADMINISTERS),
          Map.entry("delete /api/v1/rules/{name}", ADMINISTERS),
          Map.entry("post /api/v1/conditions/read", LOOKS),
          Map.entry("post /api/v1/conditions/match", ADMINISTERS),
          Map.entry("post /api/v1/clock", ADMINISTERS),
          Map.entry("get /api/v1/operators", ADMINISTERS),
          Map.entry("get /api/v1/operators/{name}", ADMINISTERS),
          Map.entry("put /api/v1/operators/{name}", ADMINISTERS),
          Map.entry("post /api/v1/operators/{name}/link", ADMINISTERS),
          Map.entry("get /api/v1/tokens", ADMINISTERS),
          Map.entry("post /api/v1/tokens", ADMINISTERS),
          Map.entry("delete /api/v1/tokens/{id}", ADMINISTERS));

  /** For people who are not signed in. */
  private static final Set<String> OPEN =
      Set.of(
          "get /api/v1/session",
          "post /api/v1/session",
          "delete /api/v1/session",
          "post /api/v1/session/link",
          "get /ask/{token}",
          "post /ask/{token}");

  private final Map<String, Rest> as = new HashMap<>();
  private Stage stage;
  private JsonNode description;

  @BeforeClass
  public void start() throws Exception {
    stage = Services.start();
    Scenario.showDayOne(stage, new PrintStream(OutputStream.nullOutputStream()));
    var first = new Rest(stage.url(), stage.token());
    description = first.get("/api/v1/openapi.json").body();
    for (var role : ROLES.subList(0, 3)) {
      as.put(role, operator(first, role, role, "[]"));
    }
    as.put("administrator", first);
    as.put("narrowed", operator(first, "narrowed", "steward", "[\"Deck\"]"));
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    stage.close();
  }

  private static Rest operator(Rest first, String name, String role, String units)
      throws Exception {
    var made =
        first.json(
            "PUT",
            "/api/v1/operators/" + name,
            """
            {"role": "%s", "units": %s}"""
                .formatted(role, units));
    assertThat(made.status()).isEqualTo(200);
    var token =
        first.json(
            "POST",
            "/api/v1/tokens",
            "{\"label\": \"test\", \"operator\": \"%s\"}".formatted(name));
    return first.as(token.body().path("token").asString());
  }

  @DataProvider
  public Object[][] endpoints() {
    return Rest.endpoints(description).toArray(Object[][]::new);
  }

  /** Endpoints that are gone must not stay in the table, where they would seem to be checked. */
  @Test
  public void theTableNamesEveryEndpointAndNoOther() {
    var named = new TreeSet<>(MAY.keySet());
    named.addAll(OPEN);
    var described = new TreeSet<String>();
    for (var endpoint : endpoints()) {
      described.add(endpoint[0] + " " + endpoint[1]);
    }

    assertThat(named).isEqualTo(described);
  }

  @Test(dataProvider = "endpoints")
  public void anEndpointIsOpenToTheRolesTheTableNamesAndToNoOther(String method, String path)
      throws Exception {
    var endpoint = method + " " + path;
    var toStrangers = status(new Rest(stage.url(), null), method, path);
    if (OPEN.contains(endpoint)) {
      assertThat(toStrangers).as(endpoint).isNotEqualTo(401).isLessThan(500);
      return;
    }
    assertThat(toStrangers).as(endpoint).isEqualTo(401);
    var may = new TreeSet<String>();
    for (var role : ROLES) {
      var status = status(as.get(role), method, path);
      assertThat(status).as("%s to the role %s", endpoint, role).isNotEqualTo(401).isLessThan(500);
      if (status != 403) {
        may.add(role);
      }
    }
    assertThat(may).as(endpoint).isEqualTo(new TreeSet<>(MAY.get(endpoint)));
  }

  /** With numbers nobody has, so that nothing is done where it is allowed. */
  private static int status(Rest rest, String method, String path) throws Exception {
    var target =
        path.replace("{name}", "no-such-name")
            .replace("{key}", "none")
            .replaceAll("\\{\\w+}", "999999999");
    if (path.equals("/api/v1/imports")) {
      target += "?source=none&file=x.csv";
    }
    if (path.endsWith("/values")) {
      target += "?attribute=department";
    }
    if (path.endsWith("/find")) {
      target += "?text=x";
    }
    if (path.equals("/api/v1/events")) {
      return rest.statusOfStream(target);
    }
    var type = path.equals("/api/v1/imports") ? "text/csv" : "application/json";
    return rest.send(
            method.toUpperCase(Locale.ROOT), target, type, method.equals("get") ? null : "{}")
        .status();
  }

  @Test
  public void theDescriptionInDocsIsTheOneTheServiceGives() throws Exception {
    var kept = JsonMapper.builder().build().readTree(Path.of("../docs/openapi.json").toFile());
    assertThat(description.path("paths"))
        .as("make it anew: bin/openapi")
        .isEqualTo(kept.path("paths"));
    assertThat(description.path("components"))
        .as("make it anew: bin/openapi")
        .isEqualTo(kept.path("components"));
  }

  @Test
  public void aTokenCanDoLessThanItsOperatorAndNeverMore() throws Exception {
    var first = as.get("administrator");
    var lesser =
        first.json("POST", "/api/v1/tokens", "{\"label\": \"reports\", \"role\": \"auditor\"}");
    assertThat(first.as(lesser.body().path("token").asString()).get("/api/v1/tokens").status())
        .isEqualTo(403);
    var greater =
        first.json(
            "POST",
            "/api/v1/tokens",
            "{\"label\": \"x\", \"role\": \"administrator\", \"operator\": \"helpdesk\"}");
    assertThat(first.as(greater.body().path("token").asString()).get("/api/v1/tokens").status())
        .isEqualTo(403);
  }

  @Test(priority = 1)
  public void theLastAdministratorStays() throws Exception {
    var first = new Rest(stage.url(), stage.token());
    assertThat(
            first.json("PUT", "/api/v1/operators/administrator", "{\"role\": \"auditor\"}").code())
        .isEqualTo("last-administrator");
  }

  @Test
  public void whoAnswersForOneUnitReleasesNothingOfOthersAndBringsInNoFile() throws Exception {
    var narrowed = as.get("narrowed");
    assertThat(narrowed.json("POST", "/api/v1/change-sets/1/release", "{}").code())
        .isEqualTo("beyond-reach");
    assertThat(narrowed.get("/api/v1/imports").code()).isEqualTo("beyond-reach");
    assertThat(narrowed.get("/api/v1/change-sets/1").code()).isEqualTo("beyond-reach");
    var stranger =
        narrowed.json(
            "POST",
            "/api/v1/people",
            """
            {"attributes": {"name.givenName": "Ida", "name.familyName": "Holm", "department": "Office"}}""");
    assertThat(stranger.code()).isEqualTo("beyond-reach");
    var own =
        narrowed.json(
            "POST",
            "/api/v1/people",
            """
            {"attributes": {"name.givenName": "Ida", "name.familyName": "Holm", "department": "Deck"}}""");
    assertThat(own.status()).isEqualTo(201);
    var set = own.body().path("id").asLong();
    assertThat(narrowed.json("POST", "/api/v1/change-sets/" + set + "/release", "{}").status())
        .isEqualTo(202);
    var listed = narrowed.get("/api/v1/people").body();
    assertThat(listed.path("items").findValuesAsString("department")).containsOnly("Deck");
    assertThat(narrowed.get("/api/v1/change-sets").body().path("items").findValuesAsString("title"))
        .containsExactly("new person Ida Holm");
  }
}
