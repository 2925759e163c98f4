package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Stage;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** How a sign-in to the console ends, and what a request needs that comes with its cookie. */
public class SessionsTest {
  private static final String SESSION = "/api/v1/session";
  private static final String WORDS = "kelp forests at dawn";

  private Stage stage;
  private Rest administrator;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start("ebb.sign-in-idle=6s", "ebb.sign-in-longest=1h");
    administrator = new Rest(stage.url(), stage.token());
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** A browser, as far as cookies go. */
  private final class Browser {
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).build();

    HttpResponse<String> get(String path) throws Exception {
      return send("GET", path, null, true);
    }

    HttpResponse<String> send(String method, String path, String body, boolean isMarked)
        throws Exception {
      var request =
          HttpRequest.newBuilder(URI.create(stage.url() + path))
              .header("Content-Type", "application/json")
              .method(
                  method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body));
      if (isMarked) {
        mark().ifPresent(mark -> request.header("X-XSRF-TOKEN", mark));
      }
      return http.send(request.build(), BodyHandlers.ofString());
    }

    private java.util.Optional<String> mark() {
      return cookies.getCookieStore().getCookies().stream()
          .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
          .map(HttpCookie::getValue)
          .findFirst();
    }

    void signIn(String name, String password) throws Exception {
      get(SESSION);
      var answer =
          send(
              "POST",
              SESSION,
              "{\"name\": \"%s\", \"password\": \"%s\"}".formatted(name, password),
              true);
      assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
      // The mark changes with the sign-in.
      get(SESSION);
    }

    /** What the browser would send from now on, whatever it is told afterwards. */
    String kept() {
      return cookies.getCookieStore().getCookies().stream()
          .filter(cookie -> cookie.getName().equals("ebb-sign-in"))
          .map(HttpCookie::getValue)
          .findFirst()
          .orElseThrow();
    }
  }

  private Browser signedIn() throws Exception {
    var browser = new Browser();
    browser.signIn(Stage.OPERATOR, Stage.PASSWORD);
    assertThat(browser.get("/api/v1/now").statusCode()).isEqualTo(200);
    return browser;
  }

  private int statusWith(String cookie) throws Exception {
    return administrator
        .as(null)
        .send("GET", "/api/v1/now", null, null, "Cookie", "ebb-sign-in=" + cookie)
        .status();
  }

  @Test
  public void afterASignOutItsCookieOpensNothingWhoeverKeptIt() throws Exception {
    var browser = signedIn();
    var kept = browser.kept();
    assertThat(statusWith(kept)).isEqualTo(200);

    assertThat(browser.send("DELETE", SESSION, null, true).statusCode()).isEqualTo(204);

    assertThat(statusWith(kept)).isEqualTo(401);
    assertThat(browser.get("/api/v1/now").statusCode()).isEqualTo(401);
  }

  @Test
  public void aSignInNobodyUsesEndsAndOneInUseGoesOn() throws Exception {
    var used = signedIn();
    var left = signedIn();

    for (int i = 0; i < 9; i++) {
      assertThat(used.get("/api/v1/now").statusCode()).as("used each second").isEqualTo(200);
      Thread.sleep(1_000);
    }

    assertThat(left.get("/api/v1/now").statusCode()).as("left for nine").isEqualTo(401);
  }

  @Test
  public void aWriteWithACookieNeedsTheMarkThatOnlyOurPagesCanRead() throws Exception {
    var browser = signedIn();
    var person = "{\"attributes\": {\"name.givenName\": \"Ida\", \"name.familyName\": \"Forged\"}}";

    var forged = browser.send("POST", "/api/v1/people", person, false);
    assertThat(forged.statusCode()).isEqualTo(403);
    assertThat(forged.body()).contains("mark-missing");
    assertThat(administrator.get("/api/v1/change-sets").body().toString()).doesNotContain("Forged");

    assertThat(browser.send("POST", "/api/v1/people", person, true).statusCode()).isEqualTo(201);
    assertThat(administrator.get("/api/v1/change-sets").body().toString()).contains("Forged");
  }

  @Test
  public void anOperatorWhoIsEndedCanDoNothingMoreByCookieOrByToken() throws Exception {
    administrator.json("PUT", "/api/v1/operators/signe", "{\"role\": \"steward\"}");
    var link =
        administrator
            .json("POST", "/api/v1/operators/signe/link", null)
            .body()
            .path("address")
            .asString();
    var browser = new Browser();
    browser.get(SESSION);
    var opened =
        browser.send(
            "POST",
            SESSION + "/link",
            "{\"link\": \"%s\", \"password\": \"%s\"}"
                .formatted(link.substring(link.indexOf('#') + 1), WORDS),
            true);
    assertThat(opened.statusCode()).as(opened.body()).isEqualTo(200);
    var token =
        administrator
            .json("POST", "/api/v1/tokens", "{\"label\": \"hers\", \"operator\": \"signe\"}")
            .body()
            .path("token")
            .asString();
    assertThat(browser.get("/api/v1/people").statusCode()).isEqualTo(200);
    assertThat(administrator.as(token).get("/api/v1/people").status()).isEqualTo(200);

    var ended =
        administrator.json(
            "PUT", "/api/v1/operators/signe", "{\"role\": \"steward\", \"ended\": true}");
    assertThat(ended.status()).as(ended.body().toString()).isEqualTo(200);

    assertThat(browser.get("/api/v1/people").statusCode()).as("by cookie").isEqualTo(401);
    assertThat(administrator.as(token).get("/api/v1/people").status())
        .as("by token")
        .isEqualTo(401);
    var again = new Browser();
    again.get(SESSION);
    assertThat(
            again
                .send(
                    "POST",
                    SESSION,
                    "{\"name\": \"signe\", \"password\": \"%s\"}".formatted(WORDS),
                    true)
                .statusCode())
        .as("by password")
        .isEqualTo(401);
  }

  @Test
  public void aSignInOutlivesTheServiceAndItsEndDoes() throws Exception {
    var browser = signedIn();
    var other = signedIn();
    other.send("DELETE", SESSION, null, true);
    stage.stopService();
    stage.startService();

    waitUntil("the service answers", () -> administrator.get("/api/v1/now").status() == 200);
    assertThat(other.get("/api/v1/now").statusCode()).isEqualTo(401);
    assertThat(browser.get(SESSION).statusCode()).isEqualTo(200);
  }
}
