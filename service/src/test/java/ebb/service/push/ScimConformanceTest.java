package ebb.service.push;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What RFC 7643 and RFC 7644 ask of a provider, case by case, each with its section. */
public class ScimConformanceTest {
  private static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  private static final String ENTERPRISE =
      "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final HttpClient http = HttpClient.newHttpClient();
  private String token;
  private int made;
  private String id;
  private String tag;

  @BeforeClass
  void putAFeed() {
    var client = InProcess.client();
    client.done("feeds", "put", "conforming", "--kind=push", "--set=groupsIn=mail-house");
    token = client.json("feeds", "token", "conforming").path("token").asString();
  }

  @AfterClass(alwaysRun = true)
  void close() {
    http.close();
  }

  @BeforeMethod
  void sendSomebody() throws Exception {
    made++;
    var answer =
        send(
            "POST",
            "/Users",
            """
            {"schemas": ["%1$s", "%2$s"], "externalId": "C-%3$d", "userName": "conf%3$d",
             "name": {"givenName": "Ida", "familyName": "Conform"}, "title": "Mate",
             "userType": "employee", "emails": [
               {"value": "w%3$d@work.example", "type": "work", "primary": true},
               {"value": "h%3$d@home.example", "type": "home"}],
             "%2$s": {"department": "Deck", "costCenter": "7"}}
            """
                .formatted(USER, ENTERPRISE, made));
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
    id = JSON.readTree(answer.body()).path("id").asString();
    tag = answer.headers().firstValue("ETag").orElseThrow();
  }

  private HttpResponse<String> send(String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    var request =
        HttpRequest.newBuilder(URI.create(InProcess.stage().url() + "/scim/v2" + path))
            .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body))
            .header("Authorization", "Bearer " + token);
    if (body != null && List.of(headers).stream().noneMatch("Content-Type"::equals)) {
      request.header("Content-Type", "application/scim+json");
    }
    if (headers.length > 0) {
      request.headers(headers);
    }
    return http.send(request.build(), BodyHandlers.ofString());
  }

  private JsonNode get(String path) throws Exception {
    var answer = send("GET", path, null);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    return JSON.readTree(answer.body());
  }

  private HttpResponse<String> patch(String operations, String... headers) throws Exception {
    return send(
        "PATCH",
        "/Users/" + id,
        """
        {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"], "Operations": [%s]}"""
            .formatted(operations.replace('\'', '"')),
        headers);
  }

  private static void isError(HttpResponse<String> answer, int status, String scimType) {
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
    assertThat(answer.headers().firstValue("Content-Type").orElse(""))
        .startsWith("application/scim+json");
    var error = JSON.readTree(answer.body());
    assertThat(error.path("schemas").toString())
        .contains("urn:ietf:params:scim:api:messages:2.0:Error");
    assertThat(error.path("status").asString()).isEqualTo(Integer.toString(status));
    if (scimType != null) {
      assertThat(error.path("scimType").asString()).isEqualTo(scimType);
    }
  }

  @DataProvider
  Object[][] projections() {
    return new Object[][] {
      // RFC 7644, 3.9; RFC 7643, 2.1 (letter case), 3.1 (always returned)
      {"attributes=userName", "id,schemas,userName"},
      {"attributes=USERNAME", "id,schemas,userName"},
      {"attributes=name.familyName", "id,name.familyName,schemas"},
      {"attributes=emails.value", "emails.value,id,schemas"},
      {"attributes=Emails.Type,emails.value", "emails.type,emails.value,id,schemas"},
      {"attributes=" + USER + ":title", "id,schemas,title"},
      {"attributes=" + USER + ":emails.type", "emails.type,id,schemas"},
      {"attributes=" + ENTERPRISE + ":department", ENTERPRISE + ".department,id,schemas"},
      {
        "attributes=" + ENTERPRISE,
        ENTERPRISE + ".costCenter," + ENTERPRISE + ".department,id,schemas"
      },
      {"attributes=nothing.such", "id,schemas"},
      {
        "excludedAttributes=meta,name,externalId,userName,title,userType,ID,schemas," + ENTERPRISE,
        "emails.primary,emails.type,emails.value,id,schemas"
      },
      {
        "excludedAttributes=meta,name.givenName,externalId,userName,title,userType,emails.TYPE,"
            + "emails.primary,"
            + ENTERPRISE.toUpperCase(Locale.ROOT)
            + ":costCenter",
        "emails.value,id,name.familyName,schemas," + ENTERPRISE + ".department"
      },
    };
  }

  @Test(dataProvider = "projections")
  public void theAttributesAskedForAreShownAndNoOthers(String query, String shown)
      throws Exception {
    var expected = Arrays.stream(shown.split(",")).sorted().toList();
    assertThat(paths(get("/Users/" + id + "?" + query))).as("GET").isEqualTo(expected);
    var listed = get("/Users?filter=userName%20eq%20%22conf" + made + "%22&" + query);
    assertThat(paths(listed.at("/Resources/0"))).as("list").isEqualTo(expected);
    var patched =
        send(
            "PATCH",
            "/Users/" + id + "?" + query,
            """
            {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"],
             "Operations": [{"op": "replace", "path": "title", "value": "Bosun"}]}""");
    assertThat(paths(JSON.readTree(patched.body()))).as("PATCH").isEqualTo(expected);
  }

  /** Each attribute that is shown, with one of its parts after a dot where it has any. */
  private static List<String> paths(JsonNode resource) {
    var paths = new TreeSet<String>();
    for (var field : resource.properties()) {
      var value = field.getValue();
      var parts = value.isArray() && !field.getKey().equals("schemas") ? value : null;
      if (parts != null) {
        parts.forEach(
            one -> one.propertyNames().forEach(part -> paths.add(field.getKey() + "." + part)));
      } else if (value.isObject() && !field.getKey().equals("meta")) {
        value.propertyNames().forEach(part -> paths.add(field.getKey() + "." + part));
      } else {
        paths.add(field.getKey());
      }
    }
    return List.copyOf(paths);
  }

  @DataProvider
  Object[][] patches() {
    return new Object[][] {
      // RFC 7644, 3.5.2: each operation, what is looked at, and what stands there afterwards
      {"{'op': 'replace', 'path': 'title', 'value': 'Bosun'}", "/title", "Bosun"},
      {"{'op': 'Replace', 'path': 'TITLE', 'value': 'Bosun'}", "/title", "Bosun"},
      {"{'op': 'replace', 'path': '" + USER + ":title', 'value': 'Bosun'}", "/title", "Bosun"},
      {"{'op': 'add', 'path': 'title', 'value': null}", "/title", "Mate"},
      {"{'op': 'replace', 'path': 'title', 'value': null}", "/title", null},
      {"{'op': 'remove', 'path': 'title'}", "/title", null},
      {"{'op': 'replace', 'value': {'title': 'Bosun', 'id': 'other'}}", "/title", "Bosun"},
      {"{'op': 'replace', 'value': {'title': null}}", "/title", null},
      {"{'op': 'add', 'value': {'name.givenName': 'Eva'}}", "/name/givenName", "Eva"},
      {
        "{'op': 'add', 'value': {'" + ENTERPRISE + ":department': 'Engine'}}",
        "/" + ENTERPRISE + "/department",
        "Engine"
      },
      {
        "{'op': 'replace', 'value': {'" + ENTERPRISE + "': {'department': 'Engine'}}}",
        "/" + ENTERPRISE + "/department",
        "Engine"
      },
      {
        "{'op': 'replace', 'value': {'" + ENTERPRISE + "': {'department': 'Engine'}}}",
        "/" + ENTERPRISE + "/costCenter",
        "7"
      },
      {
        "{'op': 'remove', 'path': '" + ENTERPRISE + ":department'}",
        "/" + ENTERPRISE + "/department",
        null
      },
      {"{'op': 'remove', 'path': '" + ENTERPRISE + "'}", "/" + ENTERPRISE + "/costCenter", null},
      {
        "{'op': 'add', 'path': 'emails', 'value': {'value': 'o@other.example', 'type': 'other'}}",
        "/emails/2/value",
        "o@other.example"
      },
      {
        "{'op': 'replace', 'path': 'emails[type eq \\\"home\\\"].value', 'value': 'n@home.example'}",
        "/emails/1/value",
        "n@home.example"
      },
      {"{'op': 'remove', 'path': 'emails[type eq \\\"work\\\"]'}", "/emails/0/type", "home"},
      // A new primary value takes the place of the old one.
      {
        "{'op': 'add', 'path': 'emails', 'value': [{'value': 'p@p.example', 'type': 'other',"
            + " 'primary': true}]}",
        "/emails/0/primary",
        "false"
      },
      {
        "{'op': 'replace', 'path': 'emails[type eq \\\"home\\\"].primary', 'value': true}",
        "/emails/0/primary",
        "false"
      },
    };
  }

  @Test(dataProvider = "patches")
  public void aPatchDoesWhatItSays(String operation, String pointer, String expected)
      throws Exception {
    var answer = patch(operation);

    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    var value = get("/Users/" + id).at(pointer);
    assertThat(value.isMissingNode() ? null : value.asString()).isEqualTo(expected);
  }

  @DataProvider
  Object[][] brokenPatches() {
    return new Object[][] {
      // RFC 7644, 3.5.2 and 3.12
      {"", "invalidSyntax"},
      {"null", "invalidSyntax"},
      {"{'op': 'change', 'path': 'title', 'value': 'x'}", "invalidSyntax"},
      {"{'path': 'title', 'value': 'x'}", "invalidSyntax"},
      {"{'op': 'replace', 'path': 'title'}", "invalidSyntax"},
      {"{'op': 'replace', 'value': 'x'}", "invalidSyntax"},
      {"{'op': 'remove'}", "noTarget"},
      {"{'op': 'replace', 'path': 'id', 'value': 'x'}", "mutability"},
      {"{'op': 'replace', 'path': 'meta.created', 'value': 'x'}", "mutability"},
      {"{'op': 'remove', 'path': 'groups'}", "mutability"},
      {"{'op': 'replace', 'path': '', 'value': 'x'}", "invalidPath"},
      {"{'op': 'replace', 'path': 'emails[type eq', 'value': 'x'}", "invalidPath"},
      {"{'op': 'replace', 'path': 'emails[type zz \\\"a\\\"].value', 'value': 'x'}", null},
      {"{'op': 'replace', 'path': 7, 'value': 'x'}", "invalidPath"},
      {"{'op': 'replace', 'path': 'userName', 'value': null}", null},
      {"{'op': 'add', 'path': 'noSuch', 'value': 'x'}", null},
    };
  }

  @Test(dataProvider = "brokenPatches")
  public void aPatchThatIsBrokenIsRefusedAndChangesNothing(String operation, String scimType)
      throws Exception {
    var before = get("/Users/" + id);
    isError(patch(operation), 400, scimType);
    assertThat(get("/Users/" + id)).isEqualTo(before);
  }

  @Test
  public void whatIsReadOnlyInAPutIsIgnored() throws Exception {
    // RFC 7644, 3.5.1
    var sent =
        """
        {"schemas": ["%s"], "id": "another", "externalId": "C-%d", "userName": "conf%2$d",
         "name": {"givenName": "Ida", "familyName": "Conform"}, "userType": "employee",
         "groups": [{"value": "7", "display": "deck"}], "meta": {"version": "W/9"}}
        """
            .formatted(USER, made);

    var answer = send("PUT", "/Users/" + id, sent);

    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    assertThat(JSON.readTree(answer.body()).path("id").asString()).isEqualTo(id);
  }

  @Test
  public void tagsInListsAndStarsAreUnderstood() throws Exception {
    // RFC 7644, 3.14; RFC 9110, 13.1.1 and 13.1.2
    var title = "{'op': 'replace', 'path': 'title', 'value': 'Bosun'}";
    isError(patch(title, "If-Match", "W/\"99\", \"98\""), 412, null);
    assertThat(patch(title, "If-Match", "W/\"99\", " + tag).statusCode()).isEqualTo(200);
    assertThat(patch(title, "If-Match", "*").statusCode()).isEqualTo(200);
    assertThat(send("GET", "/Users/" + id, null, "If-None-Match", "*").statusCode()).isEqualTo(304);
    isError(send("DELETE", "/Users/" + id, null, "If-Match", "\"1234567890123456789\""), 412, null);
  }

  @Test
  public void theSchemeOfATokenIsWrittenInAnyLetterCase() throws Exception {
    // RFC 9110, 11.1
    var request =
        HttpRequest.newBuilder(URI.create(InProcess.stage().url() + "/scim/v2/Users/" + id))
            .header("Authorization", "bEARER " + token);
    assertThat(http.send(request.build(), BodyHandlers.discarding()).statusCode()).isEqualTo(200);
  }

  @DataProvider
  Object[][] unknown() {
    return new Object[][] {
      // RFC 7644, 3.12 (each error as SCIM says it); RFC 9110, 15.5.6 (Allow), 15.5.16
      {"GET", "/Nothing", null, "application/scim+json", 404, null},
      {"GET", "", null, "application/scim+json", 404, null},
      {"GET", "/Users/unknown", null, "application/scim+json", 404, null},
      {"DELETE", "/Users", null, "application/scim+json", 405, null},
      {"PUT", "/Bulk", "{}", "application/scim+json", 405, null},
      {"POST", "/Schemas", "{}", "application/scim+json", 405, null},
      {"POST", "/Users", "a=b", "application/x-www-form-urlencoded", 415, null},
      {"POST", "/Users", "<a/>", "application/xml", 415, null},
      {"POST", "/Users", "{", "application/scim+json", 400, "invalidSyntax"},
      {"POST", "/Users", "{} {}", "application/scim+json", 400, "invalidSyntax"},
      {"POST", "/Users", "[]", "application/scim+json", 400, "invalidSyntax"},
      {"GET", "/Users?startIndex=one", null, "application/scim+json", 400, "invalidValue"},
      {"GET", "/Users?filter=", null, "application/scim+json", 400, "invalidFilter"},
      {"GET", "/Users?filter=userName%20eq", null, "application/scim+json", 400, "invalidFilter"},
      {
        "GET",
        "/Users?filter=emails%5Btype%20eq%20%22work%22",
        null,
        "application/scim+json",
        400,
        "invalidFilter"
      },
      // RFC 7644, 4
      {"GET", "/Schemas?filter=id%20pr", null, "application/scim+json", 403, null},
      {"GET", "/ResourceTypes?filter=id%20pr", null, "application/scim+json", 403, null},
    };
  }

  @Test(dataProvider = "unknown")
  public void whateverCannotBeAnsweredIsSaidAsScimSaysIt(
      String method, String path, String body, String type, int status, String scimType)
      throws Exception {
    var answer = send(method, path, body, "Content-Type", type);

    isError(answer, status, scimType);
    if (status == 405) {
      assertThat(answer.headers().firstValue("Allow")).isPresent();
    }
  }

  @Test
  public void anAddressThatCannotBeReadFindsNobody() throws Exception {
    // RFC 3986, 2.1: a filter that is lost on the way would find everybody.
    try (var socket = new Socket("127.0.0.1", URI.create(InProcess.stage().url()).getPort())) {
      socket
          .getOutputStream()
          .write(
              ("GET /scim/v2/Users?filter=%%zz HTTP/1.1\r\nHost: x\r\nConnection: close\r\n"
                      + "Authorization: Bearer "
                      + token
                      + "\r\n\r\n")
                  .replace("%%", "%")
                  .getBytes(StandardCharsets.US_ASCII));
      var answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer).startsWith("HTTP/1.1 400").doesNotContain("conf" + made);
    }
  }

  @DataProvider
  Object[][] pages() {
    return new Object[][] {
      // RFC 7644, 3.4.2.4
      {"startIndex=0&count=1", 1, 1},
      {"startIndex=-99999999999999999999&count=1", 1, 1},
      {"startIndex=99999999999999999999&count=1", Integer.MAX_VALUE, 0},
      {"startIndex=1&count=-5", 1, 0},
      {"startIndex=1&count=0", 1, 0},
    };
  }

  @Test(dataProvider = "pages")
  public void aPageMayBeginAnywhere(String query, int from, int items) throws Exception {
    var page = get("/Users?" + query);
    assertThat(page.path("startIndex").asInt()).isEqualTo(from);
    assertThat(page.path("itemsPerPage").asInt()).isEqualTo(items);
    assertThat(page.path("totalResults").asInt()).isPositive();
  }

  @Test
  public void membersSayOfWhatTypeTheyAreAndWhere() throws Exception {
    // RFC 7643, 4.2 and 2.4; RFC 7644, 3.13: by the public address, whatever host is asked for
    var answer =
        send(
            "POST",
            "/Groups",
            """
            {"schemas": ["urn:ietf:params:scim:schemas:core:2.0:Group"],
             "displayName": "conformers-%d", "members": [{"value": "%s"}]}
            """
                .formatted(made, id));
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
    var member = JSON.readTree(answer.body()).at("/members/0");
    assertThat(member.path("type").asString()).isEqualTo("User");
    assertThat(member.path("$ref").asString())
        .isEqualTo(InProcess.stage().url() + "/scim/v2/Users/" + id);
    assertThat(answer.headers().firstValue("Location").orElseThrow())
        .isEqualTo(JSON.readTree(answer.body()).at("/meta/location").asString());
  }

  @Test
  public void nothingOfAValueIsAlteredInSilence() throws Exception {
    isError(patch("{'op': 'replace', 'path': 'title', 'value': '\\tBosun'}"), 400, "invalidValue");
  }
}
