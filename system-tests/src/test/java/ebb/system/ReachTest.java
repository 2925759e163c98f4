package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Every endpoint of the description, asked by an operator who answers for one unit: about a person
 * outside it nothing is told and nothing done, whatever the endpoint.
 */
public class ReachTest extends WithService {
  private static final String INSIDE = "Zzinside";
  private static final String OUTSIDE = "Zzoutside";

  /** Where a path names somebody, or what is theirs. */
  private static final List<String> THEIRS =
      List.of(
          "/api/v1/people/{id}",
          "/api/v1/accounts/{id}",
          "/api/v1/change-sets/{id}",
          "/api/v1/changes/{id}",
          "/api/v1/departures/{id}",
          "/api/v1/suspensions/{id}",
          "/api/v1/conflicts/{person}");

  private static final String QUERY =
      "?text=%s&attribute=title&application=mail-house&group=watch&source=hr&file=x.csv&days=30"
          + "&from=2026-01-01&to=2027-12-31&left=directory&right=mail-house&limit=500";

  /** Whose person, account, set and so on are put in for the names in a path. */
  private record Subject(
      String family, String person, String account, String set, String departure, String part) {}

  private Rest narrowed;
  private JsonNode description;
  private Subject inside;
  private Subject outside;

  @BeforeClass(dependsOnMethods = "startService")
  void bringTwo() throws Exception {
    var first = new Rest(stage.url(), stage.token());
    description = first.get("/api/v1/openapi.json").body();
    inside = bring(INSIDE, "Deck");
    outside = bring(OUTSIDE, "Office");
    assertThat(
            first
                .json(
                    "PUT",
                    "/api/v1/operators/narrowed",
                    "{\"role\": \"steward\", \"units\": [\"Deck\"]}")
                .status())
        .isEqualTo(200);
    narrowed =
        first.as(
            first
                .json("POST", "/api/v1/tokens", "{\"label\": \"test\", \"operator\": \"narrowed\"}")
                .body()
                .path("token")
                .asString());
  }

  /** Somebody who has accounts and leaves. */
  private Subject bring(String family, String unit) throws Exception {
    client.done(
        "people",
        "add",
        "name.givenName=Ida",
        "name.familyName=" + family,
        "userType=employee",
        "department=" + unit,
        "emails.home=ida@post.example",
        "--release");
    client.settle();
    var person = lists.person(family);
    var set = client.json("changes", "list", "--limit=1").at("/items/0/id").asString();
    client.done("people", "edit", person, "endDate=" + client.today().minusDays(1), "--release");
    client.settle();
    var departure =
        client
            .json("departures", "list", "--limit=100")
            .path("items")
            .valueStream()
            .filter(one -> one.path("person").asString().equals(person))
            .findFirst()
            .orElseThrow();
    var account =
        client
            .json("applications", "accounts", "mail-house", "--limit=100")
            .path("items")
            .valueStream()
            .filter(one -> one.path("person").asString().equals(person))
            .findFirst()
            .orElseThrow();
    return new Subject(
        family,
        person,
        account.path("id").asString(),
        set,
        departure.path("id").asString(),
        departure.at("/accounts/0/id").asString());
  }

  @DataProvider
  Object[][] endpoints() {
    return Rest.endpoints(description).stream()
        // A stream of events names nobody, and ends by itself only once its reader is gone.
        .filter(one -> !one[1].toString().endsWith("/events"))
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "endpoints")
  public void nothingIsToldOfSomebodyOutsideAndNothingDone(String method, String path)
      throws Exception {
    var answer = ask(method, path, outside);

    assertThat(answer.response().body().toLowerCase(Locale.ROOT))
        .as("%s %s: %d", method, path, answer.status())
        .doesNotContain(OUTSIDE.toLowerCase(Locale.ROOT));
    if (THEIRS.stream().anyMatch(path::startsWith)) {
      var isEmpty =
          answer.status() == 200
              && answer.body().path("items").isArray()
              && answer.body().path("items").isEmpty();
      if (!isEmpty && !answer.code().equals("body-invalid")) {
        assertThat(Set.of(403, 404))
            .as("%s %s: %s", method, path, answer.response().body())
            .contains(answer.status());
      }
    }
    assertThat(answer.status()).as("%s %s", method, path).isLessThan(500);
  }

  @Test(dataProvider = "endpoints")
  public void whatIsReadOfSomebodyInsideIsTold(String method, String path) throws Exception {
    if (method.equals("get") && path.startsWith("/api/v1/people/{id}")) {
      assertThat(ask(method, path, inside).status()).as(path).isNotEqualTo(403);
    }
  }

  /** In the same test class, as it looks at what the others tried. */
  @Test(priority = 1)
  public void allThatWasTriedOnThemLeftThemAsTheyWere() {
    var person = client.json("people", "show", outside.person());
    assertThat(person.at("/attributes/name.familyName/value").asString()).isEqualTo(OUTSIDE);
    assertThat(client.json("departures", "show", outside.departure()).path("state").asString())
        .isEqualTo("running");
    assertThat(stage.mailHouse().accounts().byName("ida." + OUTSIDE.toLowerCase(Locale.ROOT)))
        .isNotNull();
  }

  private Rest.Answer ask(String method, String path, Subject about) throws Exception {
    var ids =
        Map.of(
            "/api/v1/people/", about.person(),
            "/api/v1/accounts/", about.account(),
            "/api/v1/change-sets/", about.set(),
            "/api/v1/departures/", about.departure());
    var target = path;
    for (var id : ids.entrySet()) {
      if (path.startsWith(id.getKey())) {
        target = target.replace("{id}", id.getValue());
      }
    }
    target =
        target
            .replace("{person}", about.person())
            .replace("{account}", about.part())
            .replace("{attribute}", "title")
            .replace("{name}", "mail-house")
            .replace("{day}", client.today().plusDays(4).toString())
            .replace("{kind}", path.contains("oddities") ? "no-manager" : "unmatched")
            .replaceAll("\\{\\w+}", "999999999");
    if (method.equals("get")) {
      target += QUERY.formatted(about.family().toLowerCase(Locale.ROOT));
    }
    return narrowed.send(
        method.toUpperCase(Locale.ROOT),
        target,
        "application/json",
        method.equals("get") ? null : "{\"reason\": \"a trial\"}");
  }
}
