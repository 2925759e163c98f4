package ebb.connectors.feed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpServer;
import ebb.core.application.Secret;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Executors;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Against a server that answers as servers do on a bad day. */
public class HttpPullerTest {
  private static final String LIST = "No,Name\n1,Ida Holm\n2,Per Vik\n";
  private static final String TAG = "\"a1\"";
  private static final String WRITTEN = "Mon, 23 Nov 2026 02:00:00 GMT";

  private HttpServer server;
  private Path into;

  @BeforeMethod
  void start() throws IOException {
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    server.start();
    into = Files.createTempFile(Files.createDirectories(Path.of("target/pulled")), "list", ".part");
  }

  @AfterMethod(alwaysRun = true)
  void stop() throws IOException {
    server.stop(0);
    Files.deleteIfExists(into);
  }

  @Test
  public void aListIsGotOnceAndNotAgainUntilItChanges() throws Exception {
    at(
        "/people.csv",
        exchange -> {
          exchange.getResponseHeaders().add("ETag", TAG);
          exchange.getResponseHeaders().add("Last-Modified", WRITTEN);
          if (TAG.equals(exchange.getRequestHeaders().getFirst("If-None-Match"))) {
            exchange.sendResponseHeaders(304, -1);
          } else {
            answer(exchange, 200, LIST);
          }
        });
    var first = pull("/people.csv", null).orElseThrow();
    assertThat(Files.readString(into)).isEqualTo(LIST);
    assertThat(first.name()).isEqualTo("people.csv");
    assertThat(first.writtenAt()).isEqualTo(Instant.parse("2026-11-23T02:00:00Z"));
    assertThat(pull("/people.csv", first.mark())).isEmpty();
  }

  @Test
  public void aServerThatKnowsDatesAloneIsAskedByDate() throws Exception {
    at(
        "/people.csv",
        exchange -> {
          exchange.getResponseHeaders().add("Last-Modified", WRITTEN);
          if (WRITTEN.equals(exchange.getRequestHeaders().getFirst("If-Modified-Since"))) {
            exchange.sendResponseHeaders(304, -1);
          } else {
            answer(exchange, 200, LIST);
          }
        });
    assertThat(pull("/people.csv", pull("/people.csv", null).orElseThrow().mark())).isEmpty();
  }

  @Test
  public void furtherPagesAreFollowedAndTheirHeadingsLeftOut() throws Exception {
    page("/1", "No,Name\n1,Ida Holm\n", "</2>; rel=\"next\"");
    page("/2", "No,Name\n2,Per Vik\n", "</1>; rel=\"prev\", </3>; rel=next");
    page("/3", "No,Name\n3,Åse Ness\n", "</1>; rel=\"first\"");
    pull("/1", null);
    assertThat(Files.readString(into).lines().filter(line -> !line.isBlank()))
        .containsExactly("No,Name", "1,Ida Holm", "2,Per Vik", "3,Åse Ness");
  }

  @Test
  public void pagesThatLeadBackToEachOtherAreNoList() {
    page("/1", "No\n1\n", "</2>; rel=\"next\"");
    page("/2", "No\n2\n", "</2>; rel=\"next\"");
    assertThat(amiss("/1").problem().code()).isEqualTo("feed-redirected");
  }

  @Test
  public void theSecretIsSentAndGoesToNobodyElse() throws Exception {
    var other = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    at(
        other,
        "/",
        exchange ->
            answer(
                exchange,
                200,
                "heard\n" + exchange.getRequestHeaders().getFirst("Authorization") + "\n"));
    other.start();
    at(
        "/moved",
        exchange -> {
          var isKnown =
              "Bearer token".equals(exchange.getRequestHeaders().getFirst("Authorization"));
          exchange
              .getResponseHeaders()
              .add("Location", "http://127.0.0.1:%d/".formatted(other.getAddress().getPort()));
          exchange.sendResponseHeaders(isKnown ? 302 : 401, -1);
        });
    pull("/moved", null);
    other.stop(0);
    assertThat(Files.readString(into)).isEqualTo("heard\nnull\n");
  }

  @Test
  public void aPageForPeopleIsNoList() {
    at(
        "/page",
        exchange -> {
          exchange.getResponseHeaders().add("Content-Type", "text/html; charset=utf-8");
          answer(exchange, 200, "<html>Sign in</html>");
        });
    at("/undeclared", exchange -> answer(exchange, 200, "<!DOCTYPE html><title>Sorry</title>"));
    assertThat(amiss("/page").problem().code()).isEqualTo("feed-is-a-page");
    assertThat(amiss("/undeclared").problem().code()).isEqualTo("feed-is-a-page");
  }

  @Test
  public void whatPassesIsToldFromWhatDoesNot() {
    at("/closed", exchange -> answer(exchange, 401, ""));
    at("/nothing", exchange -> answer(exchange, 404, ""));
    at("/ill", exchange -> answer(exchange, 503, ""));
    assertThat(amiss("/closed"))
        .satisfies(
            amiss -> {
              assertThat(amiss.problem().code()).isEqualTo("feed-not-allowed");
              assertThat(amiss.isPassing()).isFalse();
            });
    assertThat(amiss("/nothing").isPassing()).isFalse();
    assertThat(amiss("/ill").isPassing()).isTrue();
  }

  @Test
  public void halfABodyIsNotTaken() {
    at(
        "/half",
        exchange -> {
          exchange.sendResponseHeaders(200, 1_000);
          exchange.getResponseBody().write(LIST.getBytes(StandardCharsets.UTF_8));
          exchange.getResponseBody().flush();
          throw new IOException("The server died");
        });
    var amiss = amiss("/half");
    assertThat(amiss.problem().code()).isEqualTo("feed-broke-off");
    assertThat(amiss.isPassing()).isTrue();
  }

  @Test(timeOut = 60_000)
  public void anEndlessBodyIsGivenUp() {
    at(
        "/endless",
        exchange -> {
          exchange.sendResponseHeaders(200, 0);
          var line = "1,Ida Holm\n".repeat(1_000).getBytes(StandardCharsets.UTF_8);
          while (true) {
            exchange.getResponseBody().write(line);
          }
        });
    assertThat(amiss("/endless").problem().code()).isEqualTo("feed-too-large");
  }

  @Test
  public void aRedirectLoopEnds() {
    at(
        "/round",
        exchange -> {
          exchange.getResponseHeaders().add("Location", "/round");
          exchange.sendResponseHeaders(302, -1);
        });
    assertThat(amiss("/round").problem().code()).isEqualTo("feed-redirected");
  }

  @Test
  public void aServerThatDoesNotRunIsTriedAgain() {
    server.stop(0);
    var amiss = amiss("/people.csv");
    assertThat(amiss.problem().code()).isEqualTo("feed-unreachable");
    assertThat(amiss.isPassing()).isTrue();
  }

  private void page(String path, String body, String link) {
    at(
        path,
        exchange -> {
          exchange.getResponseHeaders().add("Link", link);
          answer(exchange, 200, body);
        });
  }

  private void at(String path, HttpHandler handler) {
    at(server, path, handler);
  }

  private static void at(HttpServer server, String path, HttpHandler handler) {
    server.createContext(
        path,
        exchange -> {
          try (exchange) {
            handler.handle(exchange);
          }
        });
  }

  private static void answer(HttpExchange exchange, int status, String body) throws IOException {
    var bytes = body.getBytes(StandardCharsets.UTF_8);
    exchange.sendResponseHeaders(status, bytes.length == 0 ? -1 : bytes.length);
    if (bytes.length > 0) {
      exchange.getResponseBody().write(bytes);
    }
  }

  private Undelivered amiss(String path) {
    return catchThrowableOfType(Undelivered.class, () -> pull(path, null));
  }

  private Optional<Fetched> pull(String path, String mark) throws Undelivered {
    var address = "http://127.0.0.1:%d%s".formatted(server.getAddress().getPort(), path);
    var origin = new Origin(Origin.Kind.HTTP, new TreeMap<>(Map.of(Origin.ADDRESS, address)));
    return new HttpPuller(origin, new Secret("token"), 1 << 20, Duration.ofMinutes(1))
        .fetch(into, mark);
  }
}
