package ebb.connectors.http;

import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.apache.hc.client5.http.classic.methods.HttpUriRequestBase;
import org.apache.hc.client5.http.entity.UrlEncodedFormEntity;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.core5.http.ClassicHttpResponse;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpEntity;
import org.apache.hc.core5.http.ParseException;
import org.apache.hc.core5.http.io.entity.EntityUtils;
import org.apache.hc.core5.http.io.entity.StringEntity;
import org.apache.hc.core5.http.message.BasicNameValuePair;
import org.apache.hc.core5.io.CloseMode;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A pooled client to one application. Repeats no request by itself, but one that was refused for a
 * token that had ended.
 */
public final class JsonHttp implements AutoCloseable {
  public static final JsonMapper JSON = JsonMapper.builder().build();

  /** The largest answer that is read: a page of a hundred accounts is a tenth of it. */
  private static final int LARGEST_ANSWER = 8 * 1024 * 1024;

  private final HttpProblems problems;
  private final String base;
  private final Authorizer authorizer;
  private final CloseableHttpClient client;

  /**
   * How an application is reached.
   *
   * @param base address without a slash at its end
   * @param connections kept open at most
   * @param patience how long an answer is waited for
   */
  public record Line(
      String application,
      String base,
      Credentials credentials,
      Tls tls,
      Network network,
      int connections,
      Duration patience) {}

  /**
   * @throws IllegalArgumentException if a certificate or key cannot be used
   */
  public JsonHttp(Line line) {
    this.problems = new HttpProblems(line.application(), line.base());
    this.base = line.base();
    this.authorizer = new Authorizer(line.credentials(), this::ask, InstantSource.system());
    this.client = Clients.of(line);
  }

  /**
   * An answer of the application, whatever its status.
   *
   * @param body null if there was none
   * @param etag null if there was none
   * @param retryAfter null if the application named no time
   * @param date null if the application did not say what time it is there
   */
  public record Answer(int status, JsonNode body, String etag, Duration retryAfter, Instant date) {
    public boolean isSuccess() {
      return status >= 200 && status < 300;
    }
  }

  /** Nothing came back, or nothing that can be understood. */
  public static final class NoAnswer extends Exception {
    private final boolean mayHaveActed;
    private final Problem problem;

    public NoAnswer(boolean mayHaveActed, Problem problem, Throwable cause) {
      super(problem.what(), cause);
      this.mayHaveActed = mayHaveActed;
      this.problem = problem;
    }

    public Problem problem() {
      return problem;
    }

    /** A retry where the request was never sent; else the application must be asked first. */
    public Outcome outcome() {
      return mayHaveActed ? new Outcome.Unknown(problem) : new Outcome.RetryLater(null, problem);
    }
  }

  /**
   * Sends one request.
   *
   * @param path after the base
   * @param body null for none
   */
  public Answer send(String method, String path, JsonNode body, Map<String, String> headers)
      throws NoAnswer {
    return send(method, path, body, headers, () -> Note.of(method + " " + path, body));
  }

  /** Sends for others: each of them notes what concerns it. */
  public Answer sendUnnoted(String method, String path, JsonNode body, Map<String, String> headers)
      throws NoAnswer {
    return send(method, path, body, headers, () -> Note.Unwanted.NOTE);
  }

  private Answer send(
      String method, String path, JsonNode body, Map<String, String> headers, Supplier<Note> note)
      throws NoAnswer {
    var shown = authorizer.header();
    var answer = sendAs(shown, method, path, body, headers, note.get());
    if (answer.status() == 401 && authorizer.renews(shown)) {
      return sendAs(authorizer.header(), method, path, body, headers, note.get());
    }
    return answer;
  }

  private Answer sendAs(
      String shown,
      String method,
      String path,
      JsonNode body,
      Map<String, String> headers,
      Note note)
      throws NoAnswer {
    var request = new HttpUriRequestBase(method, URI.create(base + path));
    request.addHeader("Authorization", shown);
    request.addHeader("Accept", "application/scim+json, application/json");
    headers.forEach(request::addHeader);
    if (body != null) {
      request.setEntity(
          new StringEntity(
              JSON.writeValueAsString(body),
              ContentType.create("application/scim+json", StandardCharsets.UTF_8)));
    }
    return exchange(request, note);
  }

  private Answer exchange(HttpUriRequestBase request, Note note) throws NoAnswer {
    var writes = !request.getMethod().equals("GET");
    try {
      return client.execute(request, response -> answer(response, note));
    } catch (IOException | JacksonException e) {
      var problem = problems.of(e);
      note.failed(problem);
      throw new NoAnswer(writes && !HttpProblems.isBeforeSending(e), problem, e);
    }
  }

  private Authorizer.Token ask(Credentials.Client client) throws NoAnswer {
    var request = new HttpUriRequestBase("POST", URI.create(client.tokenAddress()));
    request.addHeader("Accept", "application/json");
    var form = new ArrayList<>(List.of(new BasicNameValuePair("grant_type", "client_credentials")));
    form.add(new BasicNameValuePair("client_id", client.clientId()));
    form.add(new BasicNameValuePair("client_secret", client.secret().reveal()));
    if (!client.scope().isBlank()) {
      form.add(new BasicNameValuePair("scope", client.scope()));
    }
    request.setEntity(new UrlEncodedFormEntity(form, StandardCharsets.UTF_8));
    Answer answer;
    try {
      answer = exchange(request, Note.of("POST " + client.tokenAddress(), null).secret());
    } catch (NoAnswer e) {
      // Whatever became of the token: nothing was sent to the application itself.
      throw new NoAnswer(false, e.problem(), e);
    }
    var token = answer.body() == null ? "" : answer.body().path("access_token").asString("");
    if (!answer.isSuccess() || token.isEmpty()) {
      throw new NoAnswer(false, problems.noToken(client, answer), null);
    }
    var life = answer.body().path("expires_in");
    return new Authorizer.Token(token, life.isNumber() ? Duration.ofSeconds(life.asLong()) : null);
  }

  /** Reads, where anything but success means that nothing can be said. */
  public JsonNode get(String path) throws Unreachable {
    return find(path).orElseThrow(() -> new Unreachable(problems.nothingAt(path), null));
  }

  /** As get, but empty where there is nothing at the path. */
  public Optional<JsonNode> find(String path) throws Unreachable {
    return orUnreachable("GET", path, null, Map.of());
  }

  /** Sends, where anything but success or "not found" means that nothing can be said. */
  public Optional<JsonNode> orUnreachable(
      String method, String path, JsonNode body, Map<String, String> headers) throws Unreachable {
    try {
      var answer = send(method, path, body, headers);
      if (answer.status() == 404) {
        return Optional.empty();
      }
      if (!answer.isSuccess() || answer.body() == null) {
        throw new Unreachable(problems.of(answer), null);
      }
      return Optional.of(answer.body());
    } catch (NoAnswer e) {
      throw new Unreachable(e.problem(), e);
    }
  }

  /** What is wrong, where the answer is no success. */
  public Problem problem(Answer answer) {
    return problems.of(answer);
  }

  /** The outcome of an answer that is no success (RFC 9110, 15; RFC 7644, 3.12). */
  public Outcome outcome(Answer answer) {
    var problem = problems.of(answer);
    return switch (answer.status()) {
      case 408, 425, 429, 503 -> new Outcome.RetryLater(answer.retryAfter(), problem);
      case 401 -> new Outcome.RetryLater(null, problem);
      case 412 -> new Outcome.Met(problem);
      default ->
          answer.status() >= 500 && answer.status() != 501
              ? new Outcome.Unknown(problem)
              : new Outcome.Refused(problem);
    };
  }

  @Override
  public void close() {
    client.close(CloseMode.GRACEFUL);
  }

  private static Answer answer(ClassicHttpResponse response, Note note)
      throws IOException, ParseException {
    var status = response.getCode();
    var text = text(response.getEntity());
    note.answered(status, text);
    var isJson =
        response.getEntity() != null
            && String.valueOf(response.getEntity().getContentType()).contains("json");
    if (!text.isEmpty() && !isJson && status < 300) {
      throw new IOException(
          "Answered with " + response.getEntity().getContentType() + " where JSON was asked for");
    }
    return new Answer(
        status,
        text.isEmpty() || !isJson ? null : JSON.readTree(text),
        header(response, "ETag"),
        retryAfter(header(response, "Retry-After")),
        date(header(response, "Date")));
  }

  private static String text(HttpEntity entity) throws IOException, ParseException {
    return entity == null
        ? ""
        : EntityUtils.toString(entity, StandardCharsets.UTF_8, LARGEST_ANSWER);
  }

  private static String header(ClassicHttpResponse response, String name) {
    var header = response.getFirstHeader(name);
    return header == null ? null : header.getValue();
  }

  /** Seconds or a date (RFC 9110, 10.2.3). */
  private static Duration retryAfter(String value) {
    if (value == null) {
      return null;
    }
    if (value.matches("\\d{1,6}")) {
      return Duration.ofSeconds(Long.parseLong(value));
    }
    var until = date(value);
    return until == null ? null : Duration.between(Instant.now(), until);
  }

  private static Instant date(String value) {
    try {
      return value == null
          ? null
          : ZonedDateTime.parse(value, DateTimeFormatter.RFC_1123_DATE_TIME).toInstant();
    } catch (DateTimeParseException _) {
      return null;
    }
  }
}
