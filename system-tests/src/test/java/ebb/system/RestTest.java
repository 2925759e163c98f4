package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class RestTest {
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";

  private Stage stage;
  private Rest rest;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    rest = new Rest(stage.url(), stage.token());
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    for (var name : new String[] {"Holm", "Lund", "Ask", "Berg", "Dahl"}) {
      client.done(
          "people",
          "add",
          "name.givenName=Ida",
          "name.familyName=" + name,
          "department=Deck",
          "userType=employee",
          "emails.home=ida@post.example",
          "--release");
    }
    client.settle();
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void nothingOfTheRecordsAnswersWithoutAToken() throws Exception {
    var nobody = rest.as(null);

    assertThat(nobody.get("/actuator/health").status()).isEqualTo(200);
    assertThat(nobody.get("/ask/unknown").status()).isEqualTo(410);
    assertThat(nobody.get("/").status()).as("the page to sign in on").isEqualTo(200);
    for (var path :
        new String[] {
          "/api/v1/people", "/api/v1/journal", "/api/v1/openapi.json", "/actuator/prometheus"
        }) {
      var answer = nobody.get(path);
      assertThat(answer.status()).as(path).isEqualTo(401);
      assertThat(answer.code()).as(path).isEqualTo("sign-in-needed");
    }
  }

  @Test
  public void aRevokedTokenOpensNothingAnyMore() throws Exception {
    var made = rest.json("POST", "/api/v1/tokens", "{\"label\":\"for a test\",\"days\":1}").body();
    var other = rest.as(made.path("token").asString());
    assertThat(other.get("/api/v1/now").status()).isEqualTo(200);

    assertThat(rest.json("DELETE", "/api/v1/tokens/" + made.path("id").asLong(), null).status())
        .isEqualTo(204);

    assertThat(other.get("/api/v1/now").status()).isEqualTo(401);
    assertThat(rest.get("/api/v1/tokens").body().toString())
        .doesNotContain(made.path("token").asString());
  }

  @Test
  public void describesItself() throws Exception {
    var described = rest.get("/api/v1/openapi.json").body();

    assertThat(described.path("openapi").asString()).startsWith("3.");
    assertThat(described.path("paths").propertyNames())
        .contains(
            "/api/v1/people",
            "/api/v1/imports",
            "/api/v1/change-sets/{id}/release",
            "/api/v1/departures/{id}/retry");
    assertThat(rest.get("/actuator/prometheus").response().body())
        .contains("jvm_memory_used_bytes");
  }

  @DataProvider
  Object[][] brokenFiles() {
    var row = "1,Holm,Ida,Mate,Deck,Skerrow,,employee,,,01.03.2027,,M1\n";
    return new Object[][] {
      {"file-empty", ""},
      {"file-without-rows", HEADINGS},
      {"file-not-text", "Staff no\u0000,Family name\n"},
      {"heading-doubled", HEADINGS.replace("Job,", "Job,Job,") + row},
      {"heading-missing", "Staff no,Harbour,Berth\n1,Elvnes,4\n"},
      {"column-unknown", "Staff no,Harbour,Berth\n1,Elvnes,4\n"},
      {"file-not-csv", HEADINGS + row + "2,\"never closed"},
      {"file-cut-off", HEADINGS + row + "2,Vik,Per"},
    };
  }

  @Test(dataProvider = "brokenFiles")
  public void aBrokenFileIsRefusedAsAWholeAndChangesNothing(String code, String content)
      throws Exception {
    var before = rest.get("/api/v1/now").body();

    var answer = rest.upload("hr.csv", content);

    assertThat(answer.status()).isEqualTo(400);
    assertThat(answer.body().path("problems").valueStream().map(p -> p.path("code").asString()))
        .contains(code);
    assertThat(answer.body().path("problems").valueStream())
        .allSatisfy(
            problem -> {
              assertThat(problem.path("remedy").asString()).isNotBlank();
              assertThat(problem.path("where").asString()).contains("hr.csv");
            });
    assertThat(answer.header("Content-Type")).contains("problem+json");
    assertThat(rest.get("/api/v1/now").body()).isEqualTo(before);
  }

  @Test
  public void aBodyThatIsTooLargeIsRefused() throws Exception {
    var most = Services.LARGEST_UPLOAD;

    var answer = rest.bringLarge("file=large.csv&source=hr", most + 1);

    assertThat(answer.status()).isEqualTo(413);
    assertThat(answer.code()).isEqualTo("file-too-large");
  }

  @DataProvider
  Object[][] wrongRequests() {
    return new Object[][] {
      {400, "body-invalid", "POST", "/api/v1/people", "{not json"},
      {400, "body-invalid", "POST", "/api/v1/people", "{\"attributs\":{}}"},
      {
        400,
        "value-missing",
        "POST",
        "/api/v1/people",
        "{\"attributes\":{\"name.givenName\":\"Ida\"}}"
      },
      {
        400,
        "attribute-unknown",
        "POST",
        "/api/v1/people",
        "{\"attributes\":{\"name.givenName\":\"Ida\",\"name.familyName\":\"H\",\"shoe\":\"9\"}}"
      },
      {
        400,
        "date-invalid",
        "POST",
        "/api/v1/people",
        "{\"attributes\":{\"name.givenName\":\"Ida\",\"name.familyName\":\"H\",\"endDate\":\"31.02.2027\"}}"
      },
      {404, "not-found", "GET", "/api/v1/people/999999", null},
      {404, "not-found", "POST", "/api/v1/change-sets/999999/release", null},
      {404, "not-found", "PUT", "/api/v1/departures/999999/recipient", "{\"person\":1}"},
      {404, "not-found", "POST", "/api/v1/applications/nowhere/sync", null},
      {409, "change-set-not-shown", "POST", "/api/v1/change-sets/1/release", null},
      {409, "clock-not-movable", "POST", "/api/v1/clock", "{\"to\":\"2001-01-01T00:00:00Z\"}"},
      {400, "filter-invalid", "GET", "/api/v1/people?filter=shoeSize%20eq%209", null},
      {400, "filter-invalid", "GET", "/api/v1/people?filter=department%20eq", null},
      {400, "cursor-invalid", "GET", "/api/v1/change-sets?cursor=abc", null},
      {400, "word-unknown", "GET", "/api/v1/change-sets?state=lost", null},
      {
        400,
        "setting-missing",
        "PUT",
        "/api/v1/applications/new",
        "{\"kind\":\"scim\",\"settings\":{}}"
      },
      {400, "connector-unknown", "PUT", "/api/v1/applications/new", "{\"kind\":\"telex\"}"},
      {
        400,
        "expression-invalid",
        "PUT",
        "/api/v1/rules/new",
        "{\"application\":\"directory\",\"condition\":\"person.title ==\"}"
      },
      {
        400,
        "application-unknown",
        "PUT",
        "/api/v1/rules/new",
        "{\"application\":\"nowhere\",\"condition\":\"true\"}"
      },
      {409, "source-is-hand", "PUT", "/api/v1/sources/hand", "{\"key\":\"No\"}"},
      {400, "attribute-not-mapped", "PUT", "/api/v1/sources/new", "{\"key\":\"No\"}"},
      {405, "request-invalid", "DELETE", "/api/v1/people", null},
    };
  }

  @Test(dataProvider = "wrongRequests")
  public void aWrongRequestIsAnsweredWithWhatWhyAndRemedy(
      int status, String code, String method, String path, String body) throws Exception {
    var answer = rest.json(method, path, body);

    assertThat(answer.status()).as(answer.response().body()).isEqualTo(status);
    assertThat(answer.body().path("problems").valueStream().map(p -> p.path("code").asString()))
        .contains(code);
    assertThat(answer.body().path("title").asString()).isNotBlank();
    assertThat(answer.body().path("detail").asString()).isNotBlank();
    assertThat(answer.body().path("remedy").asString()).isNotBlank();
  }

  @Test
  public void aRequestSentTwiceUnderOneKeyIsCarriedOutOnce() throws Exception {
    var body = "{\"attributes\":{\"name.givenName\":\"Once\",\"name.familyName\":\"Only\"}}";

    var first = rest.json("POST", "/api/v1/people", body, "Idempotency-Key", "key-1");
    var second = rest.json("POST", "/api/v1/people", body, "Idempotency-Key", "key-1");
    var other =
        rest.json(
            "POST", "/api/v1/people", body.replace("Only", "Ylno"), "Idempotency-Key", "key-1");

    assertThat(first.status()).isEqualTo(201);
    assertThat(second.status()).isEqualTo(201);
    assertThat(second.body()).isEqualTo(first.body());
    assertThat(second.header("Location")).isEqualTo(first.header("Location"));
    assertThat(other.status()).isEqualTo(422);
    assertThat(other.code()).isEqualTo("idempotency-key-reused");
  }

  @Test
  public void aKeyWhoseRequestFailedCanBeUsedAgain() throws Exception {
    var wrong = rest.json("POST", "/api/v1/people", "{}", "Idempotency-Key", "key-2");
    var right =
        rest.json(
            "POST",
            "/api/v1/people",
            "{\"attributes\":{\"name.givenName\":\"A\",\"name.familyName\":\"B\"}}",
            "Idempotency-Key",
            "key-2");

    assertThat(wrong.status()).isEqualTo(400);
    assertThat(right.status()).isEqualTo(201);
  }

  @Test
  public void nobodyOverwritesWhatSomebodyElseWrote() throws Exception {
    var rule = rest.get("/api/v1/rules/directory-for-all");
    var etag = rule.header("ETag");
    assertThat(etag).isNotBlank();

    var edited =
        rest.json(
            "PUT", "/api/v1/rules/directory-for-all", rule.body().toString(), "If-Match", etag);
    assertThat(edited.status()).isEqualTo(202);
    rest.json("POST", edited.header("Location") + "/release", "{}");
    var stale =
        rest.json(
            "PUT", "/api/v1/rules/directory-for-all", rule.body().toString(), "If-Match", etag);

    assertThat(stale.status()).isEqualTo(412);
    assertThat(stale.code()).isEqualTo("edited-meanwhile");
  }

  @Test
  public void whatChangedSinceItWasLookedAtIsNotReleased() throws Exception {
    var shown =
        rest.json(
            "POST",
            "/api/v1/people",
            "{\"attributes\":{\"name.givenName\":\"Late\",\"name.familyName\":\"Comer\"}}");
    var path = "/api/v1/change-sets/" + shown.body().path("id").asLong();

    var stale = rest.json("POST", path + "/release", null, "If-Match", "\"99\"");
    var released =
        rest.json("POST", path + "/release", null, "If-Match", rest.get(path).header("ETag"));

    assertThat(stale.status()).isEqualTo(412);
    assertThat(released.status()).isEqualTo(202);
    assertThat(released.header("Location")).endsWith("/events");
  }

  @Test
  public void listsArePagedAndFilteredAsTheStandardSays() throws Exception {
    var filter =
        URLEncoder.encode(
            "department eq \"Deck\" and not (name.familyName sw \"h\")", StandardCharsets.UTF_8);
    var names = new ArrayList<String>();
    var cursor = "";
    do {
      var page = rest.get("/api/v1/people?limit=2&filter=" + filter + cursor).body();
      page.path("items").forEach(person -> names.add(person.path("displayName").asString()));
      assertThat(page.path("total").asLong()).isEqualTo(4);
      cursor =
          page.path("next").isNull()
              ? ""
              : "&cursor="
                  + URLEncoder.encode(page.path("next").asString(), StandardCharsets.UTF_8);
    } while (!cursor.isEmpty());

    assertThat(names).containsExactly("Ida Ask", "Ida Berg", "Ida Dahl", "Ida Lund");
  }

  @Test
  public void progressIsStreamedUntilNothingIsUnderWay() throws Exception {
    var shown =
        rest.json(
            "POST",
            "/api/v1/people",
            "{\"attributes\":{\"name.givenName\":\"Stream\",\"name.familyName\":\"Er\"}}");
    var path = "/api/v1/change-sets/" + shown.body().path("id").asLong();
    rest.json("POST", path + "/release", null);

    var events = rest.get(path + "/events").response();

    assertThat(events.headers().firstValue("Content-Type").orElse(""))
        .startsWith("text/event-stream");
    var last =
        events
            .body()
            .lines()
            .filter(line -> line.startsWith("data:"))
            .reduce((_, b) -> b)
            .orElseThrow();
    assertThat(last).contains("\"state\":\"seen\"").doesNotContain("queued");
  }

  @Test
  public void secretsOfApplicationsAreNeverShown() throws Exception {
    assertThat(rest.get("/api/v1/applications").response().body())
        .doesNotContain("mail-house-token")
        .doesNotContain("directory-password");
    assertThat(rest.get("/api/v1/journal?limit=1000").response().body())
        .doesNotContain("mail-house-token");
  }

  @Test
  public void theClientSaysWhatIsWrongAndExitsAccordingly() {
    var refused = client.run("people", "show", "999999");
    assertThat(refused.exitCode()).isEqualTo(1);
    assertThat(refused.err()).contains("There is no person 999999.").contains("remedy");

    var wronglyCalled = client.run("peple", "list");
    assertThat(wronglyCalled.exitCode()).isEqualTo(2);
    assertThat(wronglyCalled.err()).contains("people");

    var unreachable = new Client("http://127.0.0.1:9", "token").run("now");
    assertThat(unreachable.exitCode()).isEqualTo(1);
    assertThat(unreachable.err()).contains("cannot be reached").contains("EBB_URL");
  }

  @Test
  public void theClientSpeaksToPeopleAndToPrograms() {
    assertThat(client.done("people", "list", "--name", "holm"))
        .contains("NAME")
        .contains("Ida Holm");
    assertThat(client.json("people", "list", "--name", "holm").at("/items/0/login").asString())
        .startsWith("ida.holm");
    assertThat(client.done("people", "list", "--name", "holm", "-o", "csv"))
        .startsWith("ID,NAME,LOGIN");
    assertThat(client.done("generate-completion")).contains("complete -F", "sign-ins");
    assertThat(client.done("people", "--help")).contains("Examples:");
  }
}
