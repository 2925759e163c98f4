package ebb.connectors.http;

import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.URI;
import java.net.UnknownHostException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Map;
import java.util.Optional;
import org.apache.hc.client5.http.ConnectTimeoutException;
import org.apache.hc.client5.http.classic.methods.HttpUriRequestBase;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.core5.http.ClassicHttpResponse;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.ParseException;
import org.apache.hc.core5.http.io.entity.EntityUtils;
import org.apache.hc.core5.http.io.entity.StringEntity;
import org.apache.hc.core5.util.Timeout;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A pooled client to one application. Never repeats a request by itself. */
public final class JsonHttp implements AutoCloseable {
  public static final JsonMapper JSON = JsonMapper.builder().build();

  private static final Timeout CONNECT = Timeout.ofSeconds(3);
  private static final Timeout ANSWER = Timeout.ofSeconds(15);

  /** The largest answer that is read: a page of a hundred accounts is a tenth of it. */
  private static final int LARGEST_ANSWER = 8 * 1024 * 1024;

  private final String application;
  private final String base;
  private final Secret token;
  private final CloseableHttpClient client;

  /**
   * @param base address without a slash at its end
   * @param connections kept open at most
   */
  public JsonHttp(String application, String base, Secret token, int connections) {
    this.application = application;
    this.base = base;
    this.token = token;
    this.client =
        HttpClients.custom()
            .setConnectionManager(
                PoolingHttpClientConnectionManagerBuilder.create()
                    .setMaxConnPerRoute(connections)
                    .setMaxConnTotal(connections)
                    .setDefaultConnectionConfig(
                        ConnectionConfig.custom()
                            .setConnectTimeout(CONNECT)
                            .setSocketTimeout(ANSWER)
                            .build())
                    .build())
            .setDefaultRequestConfig(RequestConfig.custom().setResponseTimeout(ANSWER).build())
            .disableAutomaticRetries()
            .disableRedirectHandling()
            .disableCookieManagement()
            .build();
  }

  /**
   * An answer of the application, whatever its status.
   *
   * @param body null if there was none
   * @param etag null if there was none
   * @param retryAfter null if the application named no time
   */
  public record Answer(int status, JsonNode body, String etag, Duration retryAfter) {
    public boolean isSuccess() {
      return status >= 200 && status < 300;
    }
  }

  /** Nothing came back, or nothing that can be understood. */
  public static final class NoAnswer extends Exception {
    private final boolean mayHaveActed;
    private final Problem problem;

    NoAnswer(boolean mayHaveActed, Problem problem, Throwable cause) {
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
   * @param body null for none
   */
  public Answer send(String method, String path, JsonNode body, Map<String, String> headers)
      throws NoAnswer {
    var request = new HttpUriRequestBase(method, URI.create(base + path));
    request.addHeader("Authorization", "Bearer " + token.reveal());
    request.addHeader("Accept", "application/scim+json, application/json");
    headers.forEach(request::addHeader);
    if (body != null) {
      request.setEntity(
          new StringEntity(
              JSON.writeValueAsString(body),
              ContentType.create("application/scim+json", StandardCharsets.UTF_8)));
    }
    try {
      return client.execute(request, response -> answer(method, response));
    } catch (ConnectException
        | ConnectTimeoutException
        | UnknownHostException
        | NoRouteToHostException e) {
      throw new NoAnswer(false, down(e), e);
    } catch (IOException e) {
      throw new NoAnswer(!method.equals("GET"), lost(e), e);
    } catch (JacksonException e) {
      throw new NoAnswer(!method.equals("GET"), nonsense(), e);
    }
  }

  /** Reads, where anything but success means that nothing can be said. */
  public JsonNode get(String path) throws Unreachable {
    return find(path).orElseThrow(() -> new Unreachable(refused(404, "nothing at " + path), null));
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
        throw new Unreachable(refused(answer), null);
      }
      return Optional.of(answer.body());
    } catch (NoAnswer e) {
      throw new Unreachable(e.problem(), e);
    }
  }

  /** The outcome of an answer that is no success (RFC 9110, 15; RFC 7644, 3.12). */
  public Outcome outcome(Answer answer) {
    return switch (answer.status()) {
      case 408, 425, 429, 503 -> new Outcome.RetryLater(answer.retryAfter(), refused(answer));
      case 412 -> new Outcome.RetryLater(null, refused(answer));
      case 401, 403 -> new Outcome.RetryLater(null, notAllowed(answer));
      default ->
          answer.status() >= 500
              ? new Outcome.Unknown(refused(answer))
              : new Outcome.Refused(refused(answer));
    };
  }

  @Override
  public void close() {
    client.close(org.apache.hc.core5.io.CloseMode.GRACEFUL);
  }

  private Answer answer(String method, ClassicHttpResponse response)
      throws IOException, ParseException {
    var status = response.getCode();
    var entity = response.getEntity();
    var text =
        entity == null ? "" : EntityUtils.toString(entity, StandardCharsets.UTF_8, LARGEST_ANSWER);
    var isJson = entity != null && String.valueOf(entity.getContentType()).contains("json");
    if (!text.isEmpty() && !isJson && status < 300) {
      throw new IOException(
          "Answered with " + entity.getContentType() + " where JSON was asked for");
    }
    return new Answer(
        status,
        text.isEmpty() || !isJson ? null : JSON.readTree(text),
        header(response, "ETag"),
        retryAfter(header(response, "Retry-After")));
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
    try {
      return Duration.between(
          ZonedDateTime.now(), ZonedDateTime.parse(value, DateTimeFormatter.RFC_1123_DATE_TIME));
    } catch (DateTimeParseException _) {
      return null;
    }
  }

  private Problem down(Exception e) {
    return new Problem(
        "application-down",
        "%s cannot be reached at %s.".formatted(application, base),
        "Connecting failed: " + e.getMessage() + ".",
        "See whether it runs; its changes wait and are tried again by themselves.",
        null);
  }

  private Problem lost(Exception e) {
    return new Problem(
        "answer-lost",
        "%s gave no usable answer.".formatted(application),
        String.valueOf(e.getMessage()),
        "It is asked what is true before anything is sent again; nothing need be done.",
        null);
  }

  private Problem nonsense() {
    return new Problem(
        "answer-not-json",
        "%s answered with something that is not JSON.".formatted(application),
        "A proxy or sign-in page may stand before it.",
        "See what stands at %s.".formatted(base),
        null);
  }

  private Problem notAllowed(Answer answer) {
    return new Problem(
        "application-not-allowed",
        "%s does not let Ebb do this (%d).".formatted(application, answer.status()),
        detail(answer),
        "Give Ebb's token the permission, or a new token; the changes are tried again.",
        null);
  }

  private Problem refused(Answer answer) {
    return refused(answer.status(), detail(answer));
  }

  private Problem refused(int status, String detail) {
    return new Problem(
        "application-answered-" + status,
        "%s answered %d: %s".formatted(application, status, detail),
        "The application takes the request for wrong, or is not well.",
        status >= 500 || status == 429
            ? "Nothing need be done: it is tried again."
            : "Correct the value or the rule it comes from, then retry the change.",
        null);
  }

  private static String detail(Answer answer) {
    return answer.body() == null
        ? "no reason given"
        : answer.body().path("detail").asString("no reason given");
  }
}
