package ebb.demo;

import ebb.cli.Main;
import java.io.PrintWriter;
import java.io.StringWriter;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The real client, called as an operator would call it. */
public final class Client {
  private static final JsonMapper JSON = JsonMapper.builder().build();

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

  /** Waits until nothing is under way any more: looked at thrice, as one thing brings another. */
  public void settle() throws InterruptedException {
    int quiet = 0;
    for (int i = 0; i < 600 && quiet < 3; i++) {
      Thread.sleep(200);
      var now = json("now");
      var busy =
          now.path("changesUnderWay").asLong()
              + now.path("noticesWaiting").asLong()
              + now.path("departuresToLookAt").asLong()
              + now.path("peopleToWake").asLong();
      quiet = busy == 0 ? quiet + 1 : 0;
    }
    if (quiet < 3) {
      throw new IllegalStateException("Something is still under way: " + json("now"));
    }
  }
}
