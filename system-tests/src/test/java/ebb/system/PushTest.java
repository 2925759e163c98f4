package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** An HR system sends people over SCIM as they change; each test is a feed of its own. */
public class PushTest {
  private Stage stage;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** A feed that is on. */
  private Scim feed(String source) {
    var scim = draft(source, "--set=groupsIn=mail-house");
    client.done("feeds", "on", source);
    return scim;
  }

  private Scim draft(String source, String... settings) {
    var command = new ArrayList<>(List.of("feeds", "put", source, "--kind=push"));
    command.addAll(List.of(settings));
    client.done(command.toArray(String[]::new));
    return new Scim(stage.url(), client.json("feeds", "token", source).path("token").asString());
  }

  @Test
  public void aSenderFindsOutWhatItMaySend() throws Exception {
    var scim = draft("finds", "--set=groupsIn=mail-house");
    var config = scim.get("/ServiceProviderConfig").body();
    assertThat(config.at("/patch/supported").asBoolean()).isTrue();
    assertThat(config.at("/bulk/maxOperations").asInt()).isEqualTo(10_000);
    assertThat(config.at("/etag/supported").asBoolean()).isTrue();
    var types = scim.get("/ResourceTypes").body().path("Resources");
    assertThat(types.findValuesAsString("name")).containsExactly("User", "Group");
    var schema = scim.get("/Schemas/" + Scim.PERSON).body();
    assertThat(schema.path("attributes").findValuesAsString("name"))
        .contains("startDate", "endDate", "location")
        .doesNotContain("title", "manager");
    assertThat(scim.get("/Schemas").body().path("totalResults").asInt()).isEqualTo(4);

    var without = draft("finds-none").get("/ResourceTypes").body();
    assertThat(without.path("Resources").findValuesAsString("name")).containsExactly("User");
  }

  @Test
  public void onlyTheTokenOfTheFeedLetsOneIn() throws Exception {
    var first = draft("tokens");
    assertThat(first.get("/Users").status()).isEqualTo(200);
    for (var token : new String[] {null, "nonsense", stage.token()}) {
      var refused = new Scim(stage.url(), token).get("/Users");
      assertThat(refused.status()).isEqualTo(401);
      assertThat(refused.header("WWW-Authenticate")).isEqualTo("Bearer");
      assertThat(code(refused)).isEqualTo("scim-token-needed");
    }
    var second = client.json("feeds", "token", "tokens").path("token").asString();
    assertThat(first.get("/Users").status()).as("the one before ends").isEqualTo(401);
    assertThat(new Rest(stage.url(), second).get("/api/v1/people").status())
        .as("it is good for nothing else")
        .isEqualTo(401);
  }

  @Test
  public void aPersonIsPushedChangedDeletedAndComesBack() throws Exception {
    var scim = feed("lifts");
    var made =
        scim.post(
            "/Users",
            Scim.user(
                "L1",
                "Runa",
                "Liftwood",
                """
                , "title": "Mate", "%s": {"department": "Deck"}, "%s": {"startDate": "2026-01-05"}
                """
                    .formatted(Scim.ENTERPRISE, Scim.PERSON)));
    assertThat(made.status()).isEqualTo(201);
    assertThat(made.header("ETag")).isEqualTo("W/\"1\"");
    assertThat(made.header("Location")).isEqualTo(made.body().at("/meta/location").asString());
    var path = "/Users/" + made.body().path("id").asString();
    awaitPerson("Liftwood", person -> value(person, "title").equals("Mate"));
    client.settle();
    var held = stage.mailHouse().accounts().count();
    assertThat(held).isPositive();

    var patched =
        scim.patch(
            path,
            """
            {"op": "Replace", "path": "title", "value": "Bosun"}
            """,
            """
            {"op": "add", "value": {"%s": {"department": "Engine"}}}
            """
                .formatted(Scim.ENTERPRISE));
    assertThat(patched.body().path("title").asString()).isEqualTo("Bosun");
    awaitPerson(
        "Liftwood",
        person ->
            value(person, "title").equals("Bosun") && value(person, "department").equals("Engine"));

    assertThat(scim.send("DELETE", path, null).status()).isEqualTo(204);
    assertThat(scim.get(path).status()).isEqualTo(404);
    var run = awaitRun("lifts", one -> one.at("/counts/missing").asInt() == 1);
    client.settle();
    assertThat(suspended()).as("a possible leaver, nothing more").isZero();
    assertThat(client.done("now")).contains("1 person is said to have gone");

    var back = scim.post("/Users", Scim.user("L1", "Runa", "Liftwood", ", \"title\": \"Mate\""));
    assertThat(back.status()).isEqualTo(201);
    awaitRun("lifts", one -> one.path("id").asLong() > run.path("id").asLong());
    client.settle();
    assertThat(
            client.json("people", "list", "--filter=name.familyName eq \"Liftwood\"").path("items"))
        .as("under the same externalId it is the same person")
        .hasSize(1);
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(held);
  }

  @Test
  public void whatIsSaidAfterSomebodyHasGoneArrivesForTheRightPeople() throws Exception {
    var scim = feed("between");
    var first = id(scim.post("/Users", Scim.user("B1", "Ada", "Betwell", "")));
    var second = id(scim.post("/Users", Scim.user("B2", "Bo", "Betmore", "")));
    var third = id(scim.post("/Users", Scim.user("B3", "Cleo", "Betmost", "")));
    awaitPerson("Betmost", _ -> true);
    client.settle();

    scim.bulk(
        titled(first, "Mate"),
        Scim.operation(
            "PATCH",
            "/Users/" + second,
            null,
            patch("{\"op\": \"replace\", \"path\": \"active\", \"value\": \"False\"}")),
        Scim.operation(
            "POST",
            "/Users",
            "never-known",
            Scim.user("B4", "Dag", "Betnever", ", \"active\": false")),
        titled(third, "Bosun"),
        Scim.operation("POST", "/Users", "new", Scim.user("B5", "Eir", "Betnew", "")));
    awaitPerson("Betmost", person -> value(person, "title").equals("Bosun"));
    awaitPerson("Betnew", _ -> true);
    awaitPerson("Betwell", person -> value(person, "title").equals("Mate"));
    client.settle();

    assertThat(
            client.json("people", "list", "--filter=name.familyName eq \"Betnever\"").path("items"))
        .as("had gone before anybody knew of them")
        .isEmpty();
    scim.bulk(titled(first, "Pilot"));
    awaitPerson("Betwell", person -> value(person, "title").equals("Pilot"));
  }

  private static String titled(String id, String title) {
    return Scim.operation(
        "PATCH",
        "/Users/" + id,
        null,
        patch("{\"op\": \"replace\", \"path\": \"title\", \"value\": \"%s\"}".formatted(title)));
  }

  @Test
  public void whoeverIsSaidNotToBeActiveIsAskedAboutUnlessTheirLastDayIsSaid() throws Exception {
    var scim = feed("actives");
    var one = id(scim.post("/Users", Scim.user("A1", "Ivo", "Actwell", "")));
    var two = id(scim.post("/Users", Scim.user("A2", "Una", "Actmore", "")));
    awaitPerson("Actwell", _ -> true);
    awaitPerson("Actmore", _ -> true);
    scim.bulk(
        Scim.operation(
            "PATCH",
            "/Users/" + one,
            null,
            patch("{\"op\": \"replace\", \"path\": \"active\", \"value\": \"False\"}")),
        Scim.operation(
            "PATCH",
            "/Users/" + two,
            null,
            patch(
                "{\"op\": \"replace\", \"value\": {\"active\": false, \"%s:endDate\": \"2099-12-31\"}}"
                    .formatted(Scim.PERSON))));
    var run = awaitRun("actives", each -> each.at("/counts/missing").asInt() == 1);
    assertThat(run.at("/counts/changed").asInt()).isEqualTo(1);
    awaitPerson("Actmore", person -> value(person, "endDate").equals("2099-12-31"));
  }

  @Test
  public void aKeyThatChangesStaysWithItsPerson() throws Exception {
    var scim = feed("keys");
    var path = "/Users/" + id(scim.post("/Users", Scim.user("K1", "Ove", "Keywright", "")));
    awaitPerson("Keywright", _ -> true);
    scim.patch(path, "{\"op\": \"replace\", \"path\": \"externalId\", \"value\": \"K-0001\"}");
    awaitRun("keys", run -> run.at("/counts/changed").asInt() == 1);
    var person = awaitPerson("Keywright", _ -> true);
    assertThat(client.done("people", "keys", person)).contains("K-0001");
  }

  @Test
  public void groupsAreThoseOfAnApplicationAndMembersFollow() throws Exception {
    var scim = feed("groups");
    var ann = id(scim.post("/Users", Scim.user("G1", "Ann", "Groupley", "")));
    var bo = id(scim.post("/Users", Scim.user("G2", "Bo", "Groupson", "")));
    var made = scim.post("/Groups", Scim.group("fire-wardens", ann, bo));
    assertThat(made.status()).isEqualTo(201);
    var path = "/Groups/" + id(made);
    var first = awaitPerson("Groupley", person -> grants(person).contains("fire-wardens"));
    var second = awaitPerson("Groupson", person -> grants(person).contains("fire-wardens"));

    scim.patch(
        path, "{\"op\": \"remove\", \"path\": \"members[value eq \\\"%s\\\"]\"}".formatted(bo));
    assertThat(scim.get(path).body().path("members").findValuesAsString("value"))
        .containsExactly(ann);
    awaitPerson("Groupson", person -> !grants(person).contains("fire-wardens"));
    assertThat(grants(first)).contains("fire-wardens");
    assertThat(grants(second)).doesNotContain("fire-wardens");

    var renamed =
        scim.patch(path, "{\"op\": \"replace\", \"path\": \"displayName\", \"value\": \"x\"}");
    assertThat(renamed.body().path("scimType").asString()).isEqualTo("mutability");
    var nobody = scim.post("/Groups", Scim.group("deck-crew", "nobody"));
    assertThat(code(nobody)).isEqualTo("scim-member-unknown");
    scim.send("DELETE", path, null);
    awaitPerson("Groupley", person -> !grants(person).contains("fire-wardens"));
    assertThat(code(draft("groups-none").post("/Groups", Scim.group("deck-crew"))))
        .isEqualTo("scim-groups-not-taken");
  }

  @Test
  public void whatIsPushedIsFoundPagedAndCutDown() throws Exception {
    var scim = draft("lists");
    for (int i = 0; i < 7; i++) {
      scim.post(
          "/Users",
          Scim.user(
              "P" + i,
              "Pia" + i,
              "Pagewell",
              ", \"title\": \"%s\"".formatted(i % 2 == 0 ? "Mate" : "Cook")));
    }
    var page = scim.get("/Users?startIndex=6&count=5").body();
    assertThat(page.path("totalResults").asInt()).isEqualTo(7);
    assertThat(page.path("itemsPerPage").asInt()).isEqualTo(2);
    assertThat(scim.get("/Users?count=0").body().path("Resources")).isEmpty();
    assertThat(found(scim, "userName eq \"PIA3.pagewell\"")).isEqualTo(1);
    assertThat(found(scim, "externalId eq \"P3\"")).isEqualTo(1);
    assertThat(found(scim, "title eq \"mate\" and name.givenName sw \"Pia\"")).isEqualTo(4);
    assertThat(found(scim, "not (title eq \"mate\")")).isEqualTo(3);
    assertThat(found(scim, "meta.lastModified gt \"2020-01-01T00:00:00Z\"")).isEqualTo(7);

    var bare =
        scim.get("/Users?filter=externalId%20eq%20%22P3%22&attributes=name.familyName").body();
    var only = bare.at("/Resources/0");
    assertThat(only.propertyNames()).containsExactlyInAnyOrder("schemas", "id", "name");
    assertThat(only.path("name").propertyNames()).containsExactly("familyName");
    var searched =
        scim.post(
            "/Users/.search",
            "{\"filter\": \"title eq \\\"Cook\\\"\", \"excludedAttributes\": [\"name\"], \"count\": 1}");
    assertThat(searched.body().path("totalResults").asInt()).isEqualTo(3);
    assertThat(searched.body().at("/Resources/0").has("name")).isFalse();
  }

  @Test
  public void twoWhoWriteAtOnceDoNotOverwriteEachOther() throws Exception {
    var scim = draft("tags");
    var path = "/Users/" + id(scim.post("/Users", Scim.user("T1", "Tor", "Tagwell", "")));
    var title = Scim.user("T1", "Tor", "Tagwell", ", \"title\": \"Cook\"");
    assertThat(scim.send("PUT", path, title, "If-Match", "W/\"1\"").header("ETag"))
        .isEqualTo("W/\"2\"");
    var late = scim.send("PUT", path, title.replace("Cook", "Mate"), "If-Match", "W/\"1\"");
    assertThat(late.status()).isEqualTo(412);
    assertThat(code(late)).isEqualTo("scim-version-stale");
    assertThat(scim.send("DELETE", path, null, "If-Match", "W/\"1\"").status()).isEqualTo(412);
    for (var tags : List.of("W/\"2\"", "W/\"1\", \"2\"", "*")) {
      assertThat(scim.send("GET", path, null, "If-None-Match", tags).status())
          .as(tags)
          .isEqualTo(304);
    }
    assertThat(scim.send("GET", path, null, "If-None-Match", "W/\"1\"").status()).isEqualTo(200);
    assertThat(scim.send("PUT", path, title).header("ETag"))
        .as("said again word for word nothing changes")
        .isEqualTo("W/\"2\"");
  }

  @DataProvider
  Object[][] amiss() {
    var user = Scim.user("B7", "Bea", "Badwell", "%s");
    return new Object[][] {
      {"POST", "{", "scim-body-invalid", "invalidSyntax"},
      {"POST", "[]", "scim-body-invalid", "invalidSyntax"},
      {"POST", user.formatted(", \"shoeSize\": 43"), "scim-attribute-unknown", "invalidSyntax"},
      {
        "POST",
        user.formatted(", \"urn:x:y\": {\"a\": 1}"),
        "scim-attribute-unknown",
        "invalidSyntax"
      },
      {
        "POST",
        user.formatted(", \"password\": \"hunter2\""),
        "scim-attribute-unknown",
        "invalidSyntax"
      },
      {"POST", user.formatted("").replace(Scim.USER, "x"), "scim-schema-missing", "invalidSyntax"},
      {"POST", user.formatted(", \"title\": {\"a\": 1}"), "scim-value-mistyped", "invalidValue"},
      {
        "POST",
        user.formatted(", \"emails\": \"a@b.example\""),
        "scim-value-mistyped",
        "invalidValue"
      },
      {
        "POST",
        user.formatted(
            ", \"emails\": [{\"value\": \"a@b.example\", \"primary\": true}, {\"value\": \"c@d.example\", \"primary\": true}]"),
        "scim-primary-twice",
        "invalidValue"
      },
      {
        "POST",
        user.formatted(", \"%s\": {\"startDate\": \"31.02.2026\"}".formatted(Scim.PERSON)),
        "date-invalid",
        "invalidValue"
      },
      {
        "POST",
        user.formatted("").replaceAll(",\\s*\"familyName\": \"Badwell\"", ""),
        "value-missing",
        "invalidValue"
      },
      {
        "POST",
        user.formatted("").replace("\"userName\": \"Bea.Badwell\",", ""),
        "scim-attribute-missing",
        "invalidValue"
      },
      {"POST", user.formatted("").replace("B7", "B1"), "scim-taken", "uniqueness"},
      {
        "PATCH",
        patch(
            "{\"op\": \"replace\", \"path\": \"emails[type eq \\\"work\\\"].value\", \"value\": \"x@y.example\"}"),
        "scim-no-target",
        "noTarget"
      },
      {
        "PATCH",
        patch("{\"op\": \"replace\", \"path\": \"emails[type eq\", \"value\": 1}"),
        "scim-path-invalid",
        "invalidPath"
      },
      {
        "PATCH",
        patch("{\"op\": \"remove\", \"path\": \"emails[type eq \\\"work\\\"\"}"),
        "scim-path-invalid",
        "invalidPath"
      },
      {"PATCH", "{\"Operations\": []}", "scim-syntax-invalid", "invalidSyntax"},
      {
        "PATCH",
        patch("{\"op\": \"jump\", \"path\": \"title\"}"),
        "scim-syntax-invalid",
        "invalidSyntax"
      },
      {
        "PATCH",
        patch("{\"op\": \"add\", \"path\": \"shoeSize\", \"value\": 43}"),
        "scim-attribute-unknown",
        "invalidSyntax"
      },
      {
        "PATCH",
        patch("{\"op\": \"remove\", \"path\": \"userName\"}"),
        "scim-attribute-missing",
        "invalidValue"
      },
    };
  }

  @Test(dataProvider = "amiss")
  public void whatIsAmissIsSaidAndNothingOfItIsTaken(
      String method, String body, String code, String scimType) throws Exception {
    var scim = draft("amiss");
    var there = scim.get("/Users?filter=externalId%20eq%20%22B1%22").body();
    var id =
        there.path("totalResults").asInt() == 1
            ? there.at("/Resources/0/id").asString()
            : id(scim.post("/Users", Scim.user("B1", "Bo", "Badwell", "")));
    var path = method.equals("POST") ? "/Users" : "/Users/" + id;
    var refused = scim.send(method, path, body);
    assertThat(code(refused)).isEqualTo(code);
    assertThat(refused.status()).isEqualTo(scimType.equals("uniqueness") ? 409 : 400);
    assertThat(refused.header("Content-Type")).startsWith("application/scim+json");
    assertThat(refused.body().path("scimType").asString()).isEqualTo(scimType);
    assertThat(refused.body().path("detail").asString()).isNotBlank();
    assertThat(scim.get("/Users").body().path("totalResults").asInt()).isEqualTo(1);
    assertThat(scim.get("/Users/" + id).header("ETag")).isEqualTo("W/\"1\"");
  }

  @Test
  public void allThatIsAmissIsSaidAtOnce() throws Exception {
    var refused =
        draft("all-amiss")
            .post(
                "/Users",
                Scim.user("Z1", "Zoe", "Zedwell", ", \"shoeSize\": 1, \"hat\": 2, \"title\": 3"));
    assertThat(problems(refused).findValuesAsString("field"))
        .containsExactlyInAnyOrder("shoeSize", "hat", "title");
    assertThat(code(draft("all-amiss").get("/Users?filter=title%20eq")))
        .isEqualTo("scim-filter-invalid");
    assertThat(code(draft("all-amiss").get("/Users?filter=emails%5Btype%20eq%20%22work%22")))
        .as("left open, it must not find everybody")
        .isEqualTo("scim-filter-invalid");
    assertThat(code(draft("all-amiss").get("/Users?count=few"))).isEqualTo("scim-value-invalid");
  }

  @Test
  public void operationsOfABulkNameWhatOthersMake() throws Exception {
    var scim = feed("bulks");
    var reports =
        Scim.user(
            "U1",
            "Rik",
            "Bulkreport",
            ", \"%s\": {\"manager\": {\"value\": \"bulkId:boss\"}}".formatted(Scim.ENTERPRISE));
    var answer =
        scim.bulk(
            Scim.operation("POST", "/Groups", "group", Scim.group("bulk-crew", "bulkId:boss")),
            Scim.operation("POST", "/Users", "report", reports),
            Scim.operation("POST", "/Users", "boss", Scim.user("U2", "Bodil", "Bulkboss", "")),
            Scim.operation(
                "POST", "/Users", "bad", Scim.user("U3", "Ane", "Bulkbad", ", \"hat\": 1")),
            Scim.operation("DELETE", "/Users/bulkId:bad", null, null),
            Scim.operation("POST", "/Users", null, Scim.user("U4", "Uno", "Bulknameless", "")),
            Scim.operation("FETCH", "/Users", null, null));
    assertThat(answer.status()).isEqualTo(200);
    assertThat(
            answer
                .body()
                .path("Operations")
                .valueStream()
                .map(one -> one.path("status").asString()))
        .containsExactly("201", "201", "201", "400", "409", "400", "400");
    var boss = awaitPerson("Bulkboss", person -> grants(person).contains("bulk-crew"));
    awaitPerson("Bulkreport", person -> value(person, "manager").equals(boss));
  }

  @Test
  public void tenThousandOperationsAreOneRequestAndMoreAreRefused() throws Exception {
    var scim = draft("thousands");
    var operations =
        IntStream.range(0, 10_000)
            .mapToObj(
                i ->
                    Scim.operation(
                        "POST",
                        "/Users",
                        "u" + i,
                        Scim.user("N" + i, Scim.name(i), "Many" + Scim.name(i * 13), "")))
            .toArray(String[]::new);
    var answer = scim.bulk(operations);
    assertThat(
            answer
                .body()
                .path("Operations")
                .valueStream()
                .map(one -> one.path("status").asString()))
        .hasSize(10_000)
        .containsOnly("201");
    assertThat(client.json("feeds", "show", "thousands").path("waiting").asInt()).isEqualTo(10_000);

    var more = Arrays.copyOf(operations, 10_001);
    more[10_000] = operations[0];
    var refused = scim.bulk(more);
    assertThat(refused.status()).isEqualTo(413);
    assertThat(code(refused)).isEqualTo("scim-bulk-too-large");
    assertThat(scim.get("/Users?count=0").body().path("totalResults").asInt()).isEqualTo(10_000);
  }

  @Test
  public void whatWasRefusedComesAlongUntilItCanBeTaken() throws Exception {
    var scim = feed("waits");
    var report =
        Scim.user(
            "W1",
            "Wim",
            "Waitreport",
            ", \"%s\": {\"manager\": {\"value\": \"W2\"}}".formatted(Scim.ENTERPRISE));
    assertThat(scim.post("/Users", report).status()).isEqualTo(201);
    awaitRun("waits", run -> run.at("/counts/refused").asInt() == 1);
    scim.post("/Users", Scim.user("W2", "Wanda", "Waitboss", ""));
    awaitPerson("Waitreport", _ -> true);
  }

  @Test
  public void whatIsPushedToADraftWaitsIsTriedAndComesInOnceItIsOn() throws Exception {
    var scim = draft("drafts");
    for (int i = 0; i < 30; i++) {
      scim.post("/Users", Scim.user("D" + i, Scim.name(i), "Draft" + Scim.name(i * 7), ""));
    }
    var tried = client.json("feeds", "test", "drafts", "--expected=30");
    assertThat(tried.at("/counts/new").asInt()).isEqualTo(30);
    assertThat(client.run("feeds", "run", "drafts").err()).contains("Feed drafts is draft");
    assertThat(client.json("feeds", "runs", "drafts").path("items")).isEmpty();
    client.done("feeds", "on", "drafts");
    awaitRun("drafts", run -> run.at("/counts/new").asInt() == 30);
    client.settle();

    var ids = scim.get("/Users").body().path("Resources").findValuesAsString("id");
    var gone =
        ids.stream().limit(10).map(id -> Scim.operation("DELETE", "/Users/" + id, null, null));
    scim.bulk(gone.toArray(String[]::new));
    var stopped = awaitRun("drafts", run -> run.path("outcome").asString().equals("stopped"));
    assertThat(stopped.at("/problem/code").asString()).isEqualTo("guard-many-gone");

    for (int i = 0; i < 30; i++) {
      scim.post("/Users", Scim.user("D" + i, Scim.name(i), "Draft" + Scim.name(i * 7), ""));
    }
    awaitRun("drafts", run -> run.path("id").asLong() > stopped.path("id").asLong());
    var set = client.json("changes", "show", stopped.path("changeSet").asString());
    assertThat(set.path("state").asString())
        .as("what was stopped gives way to what is said now")
        .isEqualTo("discarded");
    assertThat(client.json("feeds", "show", "drafts").path("waiting").asInt()).isZero();
    assertThat(client.done("now")).doesNotContain("Feed drafts needs a look");
  }

  @Test(priority = 1)
  public void whatWasAnsweredIsNotLostWhenTheServiceIsKilled() throws Exception {
    var scim = feed("killed");
    assertThat(scim.post("/Users", Scim.user("X1", "Kim", "Killwell", "")).status()).isEqualTo(201);
    stage.killService();
    stage.startService();
    awaitPerson("Killwell", _ -> true);
    client.settle();
    assertThat(
            client.json("people", "list", "--filter=name.familyName eq \"Killwell\"").path("items"))
        .hasSize(1);
  }

  private static String patch(String operation) {
    return """
    {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"], "Operations": [%s]}
    """
        .formatted(operation);
  }

  private static int found(Scim scim, String filter) throws Exception {
    var encoded = URLEncoder.encode(filter, StandardCharsets.UTF_8);
    return scim.get("/Users?filter=" + encoded.replace("+", "%20"))
        .body()
        .path("totalResults")
        .asInt();
  }

  private static String id(Rest.Answer made) {
    assertThat(made.status()).as(made.response().body()).isEqualTo(201);
    return made.body().path("id").asString();
  }

  private static JsonNode problems(Rest.Answer answer) {
    return answer.body().path("urn:ebb:scim:api:messages:1.0:Problems").path("problems");
  }

  private static String code(Rest.Answer answer) {
    return problems(answer).path(0).path("code").asString();
  }

  private String value(String person, String attribute) {
    return client
        .json("people", "show", person)
        .path("attributes")
        .path(attribute)
        .path("value")
        .asString("");
  }

  private String grants(String person) {
    return client.json("people", "show", person).path("grants").toString();
  }

  private long suspended() {
    return client.json("applications", "show", "mail-house").at("/accounts/suspended").asLong(0);
  }

  private interface Sought<T> {
    T look() throws InterruptedException;
  }

  /** The number of the one person of a family name, once something is true of them. */
  private String awaitPerson(String family, Predicate<String> isSo) throws InterruptedException {
    return await(
        family,
        () -> {
          var person =
              client
                  .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
                  .at("/items/0/id")
                  .asString("");
          return !person.isEmpty() && isSo.test(person) ? person : null;
        });
  }

  private JsonNode awaitRun(String source, Predicate<JsonNode> isSo) throws InterruptedException {
    return await(
        "a run of " + source,
        () -> {
          for (var run : client.json("feeds", "runs", source).path("items")) {
            if (!run.path("outcome").asString().equals("running") && isSo.test(run)) {
              return run;
            }
          }
          return null;
        });
  }

  private <T> T await(String what, Sought<T> sought) throws InterruptedException {
    for (int i = 0; i < 1_600; i++) {
      var found = sought.look();
      if (found != null) {
        return found;
      }
      Thread.sleep(25);
    }
    throw new AssertionError("It did not come true: " + what + "\n" + client.done("feeds", "list"));
  }
}
