package ebb.demo;

import ebb.cli.Main;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The real client, called as an operator would call it. */
public final class Client {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final HttpClient HTTP = HttpClient.newHttpClient();
  private static final Duration LONGEST_WORK = Duration.ofMinutes(2);

  /** Milliseconds between two counts of the work. */
  private static final long SHORTEST_PAUSE = 25;

  private static final long LONGEST_PAUSE = 150;

  private final String url;
  private final String token;

  public Client(String url, String token) {
    this.url = url;
    this.token = token;
  }

  /** What a command printed, and how it ended. */
  public record Said(int exitCode, String out, String err) {}

  public Said run(String... arguments) {
    var out = new StringWriter();
    var err = new StringWriter();
    var all = new String[arguments.length + 4];
    System.arraycopy(arguments, 0, all, 0, arguments.length);
    all[arguments.length] = "--url";
    all[arguments.length + 1] = url;
    all[arguments.length + 2] = "--token";
    all[arguments.length + 3] = token;
    var code = Main.run(new PrintWriter(out, true), new PrintWriter(err, true), all);
    return new Said(code, out.toString(), err.toString());
  }

  /** Runs a command that must succeed. */
  public String done(String... arguments) {
    var said = run(arguments);
    if (said.exitCode() != 0) {
      throw new IllegalStateException(
          "ebb %s ended with %d%n%s%s"
              .formatted(String.join(" ", arguments), said.exitCode(), said.out(), said.err()));
    }
    return said.out();
  }

  /** As done, read as JSON. */
  public JsonNode json(String... arguments) {
    var all = new String[arguments.length + 2];
    System.arraycopy(arguments, 0, all, 0, arguments.length);
    all[arguments.length] = "-o";
    all[arguments.length + 1] = "json";
    return JSON.readTree(done(all));
  }

  /** The day it is for the service: by its clock, in its zone. */
  public LocalDate today() {
    return LocalDate.parse(json("forecast", "--days=1").path("from").asString());
  }

  /**
   * Waits until Ebb has nothing left to do: its one count of all work is zero twice in a row.
   *
   * @throws IllegalStateException if work goes on for longer than two minutes
   */
  public void settle() throws InterruptedException {
    var end = Instant.now().plus(LONGEST_WORK);
    int quiet = 0;
    // Counting is work for the service, too: what takes long is counted less often.
    for (long pause = SHORTEST_PAUSE; quiet < 2; pause = Math.min(pause * 5 / 4, LONGEST_PAUSE)) {
      var work = JSON.readTree(get("/api/v1/work"));
      quiet = work.path("total").asLong() == 0 ? quiet + 1 : 0;
      if (Instant.now().isAfter(end)) {
        throw new IllegalStateException("Still in progress: %s, %s".formatted(work, json("now")));
      }
      Thread.sleep(quiet > 0 ? SHORTEST_PAUSE : pause);
    }
  }

  private String get(String path) throws InterruptedException {
    var request =
        HttpRequest.newBuilder(URI.create(url + path)).header("Authorization", "Bearer " + token);
    try {
      return HTTP.send(request.build(), BodyHandlers.ofString()).body();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
