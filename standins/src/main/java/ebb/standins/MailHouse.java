package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsParameters;
import com.sun.net.httpserver.HttpsServer;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.standins.Faults.Kind;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.SSLContext;

/**
 * The mail and document house: SCIM 2.0 (RFC 7643, 7644) for accounts and groups, the companion
 * interface for what they own, and a sign-in page to see whether an account works.
 */
public final class MailHouse implements AutoCloseable {
  static final ObjectMapper JSON = JsonUtils.createObjectMapper();

  private static final Set<Kind> BEFORE =
      EnumSet.of(
          Kind.UNAVAILABLE,
          Kind.BUSY_FOR_A_SECOND,
          Kind.BUSY_UNTIL,
          Kind.TOO_MANY,
          Kind.TOKEN_EXPIRED,
          Kind.FORBIDDEN,
          Kind.CUT_BEFORE_WRITE,
          Kind.HTML);
  private static final Set<Kind> AFTER =
      EnumSet.of(
          Kind.CUT_AFTER_WRITE,
          Kind.FAILS_AFTER_WRITE,
          Kind.TRUNCATED,
          Kind.HANG,
          Kind.WRONG_VERSION,
          Kind.PAGE_REPEATS);

  static {
    // Without it a small answer on a connection that is kept waits 40 ms for the one before it.
    System.setProperty("sun.net.httpserver.nodelay", "true");
  }

  private final HttpServer server;
  private final boolean isSecure;
  private final Doors doors;
  private final Faults faults = new Faults();
  private final Manners manners = new Manners();
  private final List<Write> writes = new ArrayList<>();
  private final MailAccounts accounts = new MailAccounts(manners);
  private final MailItems items = new MailItems();
  private final MailUse use = new MailUse();
  private final MailGatherings gatherings = new MailGatherings(accounts);
  private final Map<String, Integer> requests = new ConcurrentHashMap<>();
  private final ScimDesk scim = new ScimDesk(manners, accounts, this::note);
  private final CompanionDesk companion =
      new CompanionDesk(accounts, items, use, gatherings, this::losesOne);
  private final CountDownLatch closed = new CountDownLatch(1);

  /**
   * @param port 0 for any that is free
   * @param token the bearer token it takes; also the password of the client "ebb"
   */
  public MailHouse(int port, String token) throws IOException {
    this(port, token, null);
  }

  /**
   * @param tls with what it shows itself over TLS, asking its callers to do so, too; null for none
   */
  public MailHouse(int port, String token, SSLContext tls) throws IOException {
    var address = new InetSocketAddress(InetAddress.getLoopbackAddress(), port);
    doors = new Doors(token);
    isSecure = tls != null;
    server = isSecure ? secured(address, tls) : HttpServer.create(address, 256);
    server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    server.createContext("/", this::serve);
    server.start();
  }

  private static HttpServer secured(InetSocketAddress address, SSLContext tls) throws IOException {
    var server = HttpsServer.create(address, 256);
    server.setHttpsConfigurator(
        new HttpsConfigurator(tls) {
          @Override
          public void configure(HttpsParameters parameters) {
            var wanted = tls.getDefaultSSLParameters();
            wanted.setNeedClientAuth(true);
            parameters.setSSLParameters(wanted);
          }
        });
    return server;
  }

  public String address() {
    return "%s://127.0.0.1:%d"
        .formatted(isSecure ? "https" : "http", server.getAddress().getPort());
  }

  /** Where its SCIM begins. */
  public String scim() {
    return address() + "/scim/v2";
  }

  /** Where its companion interface begins. */
  public String companion() {
    return address() + "/companion/v1";
  }

  public Faults faults() {
    return faults;
  }

  public Manners manners() {
    return manners;
  }

  public Doors doors() {
    return doors;
  }

  /** Every write that was carried out, in order: "POST /scim/v2/Users". */
  public List<String> writes() {
    return journal().stream().map(Write::what).toList();
  }

  /** Every write that was carried out, in order. */
  public List<Write> journal() {
    synchronized (writes) {
      return List.copyOf(writes);
    }
  }

  /** How many requests came of a kind: "POST /scim/v2/Users", whatever follows there. */
  public int requests(String kind) {
    return requests.getOrDefault(kind, 0);
  }

  private static String kind(String what) {
    return what.replaceFirst("^(\\S+ (/[^/]+){1,3}).*", "$1");
  }

  /** Accounts as they are, for looking behind the scenes. */
  public MailAccounts accounts() {
    return accounts;
  }

  public MailGatherings gatherings() {
    return gatherings;
  }

  public MailItems items() {
    return items;
  }

  public MailUse use() {
    return use;
  }

  @Override
  public void close() {
    closed.countDown();
    server.stop(0);
  }

  private void serve(HttpExchange exchange) throws IOException {
    try (exchange) {
      pause();
      var path = exchange.getRequestURI().getPath();
      var what = exchange.getRequestMethod() + " " + path;
      var body = exchange.getRequestBody().readAllBytes();
      requests.merge(kind(what), 1, Integer::sum);
      var before = faults.take(what, BEFORE);
      if (before == Kind.CUT_BEFORE_WRITE) {
        return;
      }
      if (before != null) {
        send(exchange, failure(exchange, before));
        return;
      }
      if (path.equals("/oauth/token")) {
        var token = doors.token(exchange, new String(body, StandardCharsets.UTF_8));
        send(exchange, token == null ? refused("invalid_client") : Reply.ok(token));
        return;
      }
      if (!path.equals("/sign-in") && !doors.isOpenTo(exchange)) {
        send(exchange, Reply.error(401, "Nobody comes in without a token that is good"));
        return;
      }
      var after = faults.take(what, AFTER);
      var reply = answer(exchange, path, body, after);
      if (after == null || after == Kind.PAGE_REPEATS) {
        send(exchange, reply);
      } else {
        sendAmiss(exchange, reply, after);
      }
    }
  }

  private void pause() {
    var delay = manners.delay;
    if (!delay.isZero()) {
      sleep(delay);
    }
  }

  private void sleep(Duration time) {
    try {
      closed.await(time.toNanos(), TimeUnit.NANOSECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static Reply refused(String error) {
    return new Reply(400, null, JSON.createObjectNode().put("error", error));
  }

  private static Reply failure(HttpExchange exchange, Kind fault) {
    var headers = exchange.getResponseHeaders();
    return switch (fault) {
      case TOO_MANY -> {
        headers.add("Retry-After", "1");
        yield Reply.error(429, "Too many requests");
      }
      case BUSY_FOR_A_SECOND -> {
        headers.add("Retry-After", "1");
        yield Reply.error(503, "The house is busy");
      }
      case BUSY_UNTIL -> {
        var until = ZonedDateTime.now(ZoneOffset.UTC).plusSeconds(2);
        headers.add("Retry-After", until.format(DateTimeFormatter.RFC_1123_DATE_TIME));
        yield Reply.error(503, "The house is busy");
      }
      case TOKEN_EXPIRED -> Reply.error(401, "The token has expired");
      case FORBIDDEN -> Reply.error(403, "The house does not allow this");
      case HTML -> new Reply(200, null, "<html><body>Please sign in</body></html>");
      default -> Reply.error(503, "The house is closed for the moment");
    };
  }

  private void sendAmiss(HttpExchange exchange, Reply reply, Kind fault) throws IOException {
    switch (fault) {
      case FAILS_AFTER_WRITE -> send(exchange, Reply.error(500, "Something went wrong"));
      case WRONG_VERSION -> send(exchange, new Reply(reply.status(), "W/\"none\"", reply.body()));
      case TRUNCATED -> {
        var bytes = JSON.writeValueAsBytes(reply.body());
        exchange.getResponseHeaders().add("Content-Type", "application/scim+json");
        exchange.sendResponseHeaders(reply.status(), bytes.length / 2);
        exchange.getResponseBody().write(bytes, 0, bytes.length / 2);
      }
      case HANG -> sleep(Duration.ofMinutes(10));
      default -> {
        // The connection is cut.
      }
    }
  }

  private Reply answer(HttpExchange exchange, String path, byte[] body, Kind fault)
      throws IOException {
    try {
      JsonNode sent = body.length == 0 ? null : JSON.readTree(body);
      var parts = Arrays.stream(path.split("/")).filter(part -> !part.isEmpty()).toList();
      var query = query(exchange);
      if (fault == Kind.PAGE_REPEATS) {
        query.keySet().removeAll(Set.of("startIndex"));
        query.computeIfPresent("cursor", (_, _) -> "");
      }
      var reply = route(exchange, parts, sent, query);
      if (!exchange.getRequestMethod().equals("GET")
          && reply.isSuccess()
          && !path.endsWith("/Bulk")) {
        note(exchange.getRequestMethod() + " " + path, sent);
      }
      return reply;
    } catch (ScimException e) {
      return Reply.of(e);
    } catch (com.fasterxml.jackson.core.JacksonException e) {
      return Reply.error(400, "Not JSON: " + e.getMessage(), "invalidSyntax");
    }
  }

  private void note(String what, JsonNode sent) {
    synchronized (writes) {
      writes.add(new Write(what, sent));
    }
  }

  private Reply route(
      HttpExchange exchange, List<String> parts, JsonNode sent, Map<String, String> query)
      throws ScimException {
    var method = exchange.getRequestMethod();
    var headers = exchange.getRequestHeaders();
    var area = String.join("/", parts.subList(0, Math.min(2, parts.size())));
    var rest = parts.subList(Math.min(2, parts.size()), parts.size());
    return switch (area) {
      case "sign-in" ->
          accounts.canSignIn(sent.path("userName").asText(), sent.path("password").asText())
              ? Reply.ok(JSON.createObjectNode().put("signedIn", true))
              : Reply.error(401, "Wrong name or password, or the account is not active");
      case "scim/v2" -> scim.answer(method, rest, query, sent, headers.getFirst("If-Match"));
      case "companion/v1" ->
          companion.answer(method, rest, query, sent, headers.getFirst("Idempotency-Key"));
      default -> Reply.error(404, "There is nothing at " + parts);
    };
  }

  private boolean losesOne() {
    return faults.take("POST /companion/v1/transfers", EnumSet.of(Kind.LOSE_ONE_ITEM)) != null;
  }

  private static Map<String, String> query(HttpExchange exchange) {
    var query = new HashMap<String, String>();
    var raw = exchange.getRequestURI().getRawQuery();
    if (raw != null) {
      for (var pair : raw.split("&")) {
        var at = pair.indexOf('=');
        var name = at < 0 ? pair : pair.substring(0, at);
        var value = at < 0 ? "" : pair.substring(at + 1);
        query.put(name, URLDecoder.decode(value, StandardCharsets.UTF_8));
      }
    }
    return query;
  }

  private static void send(HttpExchange exchange, Reply reply) throws IOException {
    if (reply.etag() != null) {
      exchange.getResponseHeaders().add("ETag", reply.etag());
    }
    if (reply.body() == null) {
      exchange.sendResponseHeaders(reply.status(), -1);
      return;
    }
    var html = reply.body() instanceof String;
    exchange.getResponseHeaders().add("Content-Type", html ? "text/html" : "application/scim+json");
    var bytes =
        html
            ? reply.body().toString().getBytes(StandardCharsets.UTF_8)
            : JSON.writeValueAsBytes(reply.body());
    exchange.sendResponseHeaders(reply.status(), bytes.length);
    exchange.getResponseBody().write(bytes);
  }
}
