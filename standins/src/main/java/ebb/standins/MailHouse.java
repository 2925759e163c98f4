package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;

/**
 * The mail and document house: SCIM 2.0 (RFC 7643, 7644) for accounts and groups, the companion
 * interface for what they own, and a sign-in page to see whether an account works.
 */
public final class MailHouse implements AutoCloseable {
  static final ObjectMapper JSON = JsonUtils.createObjectMapper();

  private final HttpServer server;
  private final String token;
  private final Faults faults = new Faults();
  private final List<String> writes = new CopyOnWriteArrayList<>();
  private final MailAccounts accounts = new MailAccounts();
  private final MailItems items = new MailItems();

  /**
   * @param port 0 for any that is free
   * @param token the bearer token it takes
   */
  public MailHouse(int port, String token) throws IOException {
    this.token = token;
    this.server =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 256);
    server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    server.createContext("/", this::serve);
    server.start();
  }

  public String address() {
    return "http://127.0.0.1:" + server.getAddress().getPort();
  }

  public Faults faults() {
    return faults;
  }

  /** Every write that was carried out, in order: "POST /scim/v2/Users 12". */
  public List<String> writes() {
    return List.copyOf(writes);
  }

  /** Accounts as they are, for looking behind the scenes. */
  public MailAccounts accounts() {
    return accounts;
  }

  public MailItems items() {
    return items;
  }

  @Override
  public void close() {
    server.stop(0);
  }

  private void serve(HttpExchange exchange) throws IOException {
    try (exchange) {
      var path = exchange.getRequestURI().getPath();
      var what = exchange.getRequestMethod() + " " + path;
      if (!path.equals("/sign-in") && !isKnown(exchange)) {
        send(exchange, error(401, "A bearer token is needed"));
        return;
      }
      var fault = faults.take(what, kind -> kind != Faults.Kind.LOSE_ONE_ITEM);
      if (fault != null && fault != Faults.Kind.CUT_AFTER_WRITE) {
        send(exchange, failure(exchange, fault));
        return;
      }
      var reply = answer(exchange, path);
      if (!exchange.getRequestMethod().equals("GET") && reply.status() < 300) {
        writes.add(what);
      }
      if (fault != Faults.Kind.CUT_AFTER_WRITE) {
        send(exchange, reply);
      }
    }
  }

  private boolean isKnown(HttpExchange exchange) {
    return ("Bearer " + token).equals(exchange.getRequestHeaders().getFirst("Authorization"));
  }

  private static Reply failure(HttpExchange exchange, Faults.Kind fault) {
    return switch (fault) {
      case TOO_MANY -> {
        exchange.getResponseHeaders().add("Retry-After", "1");
        yield error(429, "Too many requests");
      }
      case HTML -> new Reply(200, null, "<html><body>Please sign in</body></html>");
      default -> error(503, "The house is closed for the moment");
    };
  }

  private Reply answer(HttpExchange exchange, String path) throws IOException {
    var body = exchange.getRequestBody().readAllBytes();
    try {
      JsonNode sent = body.length == 0 ? null : JSON.readTree(body);
      var parts = Arrays.stream(path.split("/")).filter(part -> !part.isEmpty()).toList();
      return route(exchange, parts, sent, query(exchange));
    } catch (ScimException e) {
      return error(e.getScimError().getStatus(), e.getMessage(), e.getScimError().getScimType());
    } catch (com.fasterxml.jackson.core.JacksonException e) {
      return error(400, "Not JSON: " + e.getMessage(), "invalidSyntax");
    }
  }

  private Reply route(
      HttpExchange exchange, List<String> parts, JsonNode sent, Map<String, String> query)
      throws ScimException {
    var method = exchange.getRequestMethod();
    var key = method + " " + String.join("/", parts.subList(0, Math.min(3, parts.size())));
    var id = parts.size() > 3 ? parts.get(3) : null;
    return switch (key) {
      case "POST sign-in" ->
          accounts.canSignIn(sent.path("userName").asText(), sent.path("password").asText())
              ? Reply.ok(JSON.createObjectNode().put("signedIn", true))
              : error(401, "Wrong name or password, or the account is not active");
      case "GET scim/v2/ServiceProviderConfig" -> Reply.ok(MailSchemas.serviceProviderConfig());
      case "GET scim/v2/Schemas" -> Reply.ok(MailSchemas.schemas());
      case "GET scim/v2/Users" ->
          id == null ? Reply.ok(accounts.list("User", query)) : found(accounts.get("User", id));
      case "POST scim/v2/Users" -> {
        var made = accounts.create((ObjectNode) sent);
        yield new Reply(201, version(made), made);
      }
      case "PATCH scim/v2/Users" ->
          found(
              accounts.patch("User", id, sent, exchange.getRequestHeaders().getFirst("If-Match")));
      case "DELETE scim/v2/Users" -> {
        accounts.delete(id);
        yield new Reply(204, null, null);
      }
      case "GET scim/v2/Groups" ->
          id == null ? Reply.ok(accounts.list("Group", query)) : found(accounts.get("Group", id));
      case "PATCH scim/v2/Groups" -> found(accounts.patch("Group", id, sent, null));
      case "GET companion/v1/accounts" -> companion(parts, query);
      case "POST companion/v1/transfers" ->
          Reply.ok(
              items.transfer(
                  sent.path("from").asText(),
                  sent.path("to").asText(),
                  exchange.getRequestHeaders().getFirst("Idempotency-Key"),
                  faults.take(
                          "POST /companion/v1/transfers", kind -> kind == Faults.Kind.LOSE_ONE_ITEM)
                      != null));
      case "GET companion/v1/transfers" -> Reply.ok(items.transferState(id));
      default -> error(404, "There is nothing at " + key);
    };
  }

  private Reply companion(List<String> parts, Map<String, String> query) throws ScimException {
    var account = parts.get(3);
    accounts.get("User", account);
    return switch (parts.getLast()) {
      case "items" ->
          Reply.ok(
              items.page(
                  account,
                  Integer.parseInt(query.getOrDefault("after", "0")),
                  Integer.parseInt(query.getOrDefault("limit", "100"))));
      case "references" -> Reply.ok(accounts.references(account));
      default -> error(404, "There is nothing at " + parts.getLast());
    };
  }

  private static Reply found(ObjectNode resource) {
    return new Reply(200, version(resource), resource);
  }

  private static String version(ObjectNode resource) {
    return resource.path("meta").path("version").asText(null);
  }

  private static Map<String, String> query(HttpExchange exchange) {
    var query = new HashMap<String, String>();
    var raw = exchange.getRequestURI().getRawQuery();
    if (raw != null) {
      for (var pair : raw.split("&")) {
        var at = pair.indexOf('=');
        query.put(
            pair.substring(0, at),
            URLDecoder.decode(pair.substring(at + 1), StandardCharsets.UTF_8));
      }
    }
    return query;
  }

  private record Reply(int status, String etag, Object body) {
    static Reply ok(JsonNode body) {
      return new Reply(200, null, body);
    }
  }

  private static Reply error(int status, String detail) {
    return error(status, detail, null);
  }

  /** RFC 7644, 3.12. */
  private static Reply error(Integer status, String detail, String scimType) {
    var body = JSON.createObjectNode();
    body.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:Error");
    body.put("status", Integer.toString(status));
    body.put("detail", detail);
    if (scimType != null) {
      body.put("scimType", scimType);
    }
    return new Reply(status, null, body);
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
