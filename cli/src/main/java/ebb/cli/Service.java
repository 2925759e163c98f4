package ebb.cli;

import ebb.api.Listing;
import ebb.api.ProblemView;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.function.Consumer;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The service, as the client reaches it. */
final class Service {
  static final JsonMapper JSON = JsonMapper.builder().build();

  private static final Duration CONNECT = Duration.ofSeconds(5);
  private static final Duration ANSWER = Duration.ofMinutes(10);

  /** Long enough for most files; a longer one is followed. */
  private static final String WAIT = "wait=30";

  private static final Duration BETWEEN_STREAMS = Duration.ofSeconds(1);
  private static final String DATA = "data:";
  private static final String OVER = "event:over";

  private final String url;
  private final String token;
  private final HttpClient client = HttpClient.newBuilder().connectTimeout(CONNECT).build();

  Service(String url, String token) {
    this.url = url;
    this.token = token;
  }

  <T> T get(String path, Class<T> type) {
    return JSON.treeToValue(get(path), type);
  }

  JsonNode get(String path) {
    return send(request(path).GET());
  }

  /**
   * A list, page after page until the limit is reached.
   *
   * @param path may hold a query already
   */
  <T> Listing<T> list(String path, Class<T> type, int limit) {
    var items = new ArrayList<T>();
    Long total = null;
    Long moreThan = null;
    String next = null;
    do {
      var separator = path.contains("?") ? "&" : "?";
      var page =
          get(
              path
                  + separator
                  + "limit="
                  + Math.min(1000, limit - items.size())
                  + (next == null ? "" : "&cursor=" + encoded(next)));
      page.path("items").forEach(item -> items.add(JSON.treeToValue(item, type)));
      total = number(page, "total");
      moreThan = number(page, "moreThan");
      next = page.path("next").asString(null);
    } while (next != null && items.size() < limit);
    return new Listing<>(items, next, total, moreThan);
  }

  private static Long number(JsonNode page, String field) {
    return page.path(field).isNumber() ? Long.valueOf(page.path(field).asLong()) : null;
  }

  /** Sends once; should the answer be lost, the same key gives the same answer. */
  <T> T post(String path, Object body, Class<T> type) {
    var publisher =
        body == null
            ? BodyPublishers.noBody()
            : BodyPublishers.ofString(JSON.writeValueAsString(body));
    return JSON.treeToValue(
        send(
            request(path)
                .header("Content-Type", "application/json")
                .header("Idempotency-Key", UUID.randomUUID().toString())
                .POST(publisher)),
        type);
  }

  /** Sends once, and gets a list of all there is. */
  <T> Listing<T> postForAll(String path, Object body, Class<T> type) {
    var page = post(path, body, JsonNode.class);
    var items = new ArrayList<T>();
    page.path("items").forEach(item -> items.add(JSON.treeToValue(item, type)));
    return Listing.whole(items);
  }

  <T> T upload(String path, Path file, Class<T> type) throws IOException {
    return JSON.treeToValue(
        send(
            request(path)
                .header("Content-Type", "application/octet-stream")
                .header("Prefer", WAIT)
                .header("Idempotency-Key", UUID.randomUUID().toString())
                .POST(BodyPublishers.ofFile(file))),
        type);
  }

  <T> T write(String method, String path, Object body, Class<T> type) {
    BodyPublisher publisher =
        body == null
            ? BodyPublishers.noBody()
            : BodyPublishers.ofString(JSON.writeValueAsString(body));
    return JSON.treeToValue(
        send(
            request(path)
                .header("Content-Type", "application/json")
                .header("Prefer", WAIT)
                .method(method, publisher)),
        type);
  }

  /** Fetches a file; one of that name is replaced. */
  void download(String path, Path to) {
    download(request(path).GET().build(), to);
  }

  /** Sends something, and keeps the file that is answered; one of that name is replaced. */
  void download(String path, Object body, Path to) {
    download(
        request(path)
            .header("Content-Type", "application/json")
            .POST(BodyPublishers.ofString(JSON.writeValueAsString(body)))
            .build(),
        to);
  }

  private void download(HttpRequest request, Path to) {
    try {
      var response = client.send(request, BodyHandlers.ofInputStream());
      try (var body = response.body()) {
        if (response.statusCode() >= 300) {
          throw failure(
              response.statusCode(), new String(body.readAllBytes(), StandardCharsets.UTF_8));
        }
        Files.copy(body, to, StandardCopyOption.REPLACE_EXISTING);
      }
    } catch (IOException e) {
      throw unanswered(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Unreachable(url, e);
    }
  }

  void delete(String path) {
    send(request(path).DELETE());
  }

  /**
   * Follows server-sent events until one says that it is over; a stream that breaks is reopened.
   */
  void follow(String path, Consumer<JsonNode> each) {
    while (!followOnce(path, each)) {
      pause();
    }
  }

  private static void pause() {
    try {
      Thread.sleep(BETWEEN_STREAMS);
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
      throw new Failure(
          "The client was interrupted.", "The service goes on by itself.", "See: ebb now");
    }
  }

  /** Whether it was over. */
  private boolean followOnce(String path, Consumer<JsonNode> each) {
    try {
      var response =
          client.send(
              request(path).header("Accept", "text/event-stream").GET().build(),
              BodyHandlers.ofLines());
      if (response.statusCode() >= 300) {
        throw failure(response.statusCode(), String.join("", response.body().toList()));
      }
      try (var lines = response.body()) {
        for (var line : (Iterable<String>) lines::iterator) {
          if (line.equals(OVER)) {
            return true;
          }
          if (line.startsWith(DATA)) {
            each.accept(JSON.readTree(line.substring(DATA.length())));
          }
        }
      } catch (UncheckedIOException _) {
        // The service was stopped, or the line cut: if it cannot be reached again, that is said.
      }
      return false;
    } catch (IOException e) {
      throw unanswered(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Unreachable(url, e);
    }
  }

  private Failure unanswered(IOException e) {
    return e instanceof HttpTimeoutException && !(e instanceof HttpConnectTimeoutException)
        ? new Failure(
            "Ebb has not answered within %d minutes.".formatted(ANSWER.toMinutes()),
            "What it was asked for may go on by itself.",
            "See what is under way: ebb now")
        : new Unreachable(url, e);
  }

  static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(url + path))
        .timeout(ANSWER)
        .header("Authorization", "Bearer " + token);
  }

  private JsonNode send(HttpRequest.Builder request) {
    try {
      HttpResponse<String> response = client.send(request.build(), BodyHandlers.ofString());
      if (response.statusCode() >= 300) {
        throw failure(response.statusCode(), response.body());
      }
      return response.body().isEmpty() ? JSON.nullNode() : JSON.readTree(response.body());
    } catch (IOException e) {
      throw unanswered(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Unreachable(url, e);
    }
  }

  static Failure failure(int status, String body) {
    try {
      var problem = JSON.readTree(body);
      List<ProblemView> problems = new ArrayList<>();
      problem
          .path("problems")
          .forEach(one -> problems.add(JSON.treeToValue(one, ProblemView.class)));
      if (problems.isEmpty()) {
        problems.add(
            new ProblemView(
                problem.path("code").asString("http-" + status),
                problem.path("title").asString("The service answered " + status + "."),
                problem.path("detail").asString(""),
                problem.path("remedy").asString("See the log of the service."),
                null,
                null));
      }
      return new Failure(problems);
    } catch (JacksonException _) {
      return new Failure(
          "The service answered " + status + ".",
          "It sent no reason.",
          "Check EBB_URL: is it Ebb?");
    }
  }
}
