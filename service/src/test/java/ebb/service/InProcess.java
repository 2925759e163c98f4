package ebb.service;

import ebb.demo.Client;
import ebb.demo.ServiceHost;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The service inside the tests' own process, on an H2 database in memory, with stand-ins for its
 * applications. Nothing runs in the background: a test calls what it is about. All test classes
 * share one, so each names its people apart.
 */
public final class InProcess implements ServiceHost {
  /** Each takes some milliseconds. */
  private static final int MOST_LOOKS = 2_000;

  private static InProcess running;

  private ConfigurableApplicationContext context;
  private Stage stage;
  private Client client;

  /** Starts it for the first test that asks; it ends with the process. */
  private static synchronized InProcess running() {
    if (running == null) {
      var one = new InProcess();
      try {
        var home = Files.createDirectories(Path.of("target/homes"));
        one.stage =
            new Stage(
                Files.createTempDirectory(home, "home").toAbsolutePath(),
                one,
                0,
                "--ebb.scheduled=false",
                "--ebb.database-url=jdbc:h2:mem:service;DB_CLOSE_DELAY=-1",
                "--ebb.end-warning-days=14");
        one.client = new Client(one.stage.url(), one.stage.token());
        SetUp.run(one.client, one.stage);
      } catch (Exception e) {
        throw new IllegalStateException("The service did not start", e);
      }
      running = one;
    }
    return running;
  }

  public static <T> T bean(Class<T> type) {
    return running().context.getBean(type);
  }

  public static Stage stage() {
    return running().stage;
  }

  public static Client client() {
    return running().client;
  }

  /**
   * Runs a command that shows a change set, and releases that; its changes stay in the queue, as no
   * worker carries them out.
   */
  public static void released(String... command) {
    release(client().json(command).path("id").asString());
  }

  /** Releases a change set that is shown; as {@link #released}. */
  public static void release(String set) {
    client().done("changes", "release", set, "--no-wait", "--reason=a trial");
    for (int look = 0; look < MOST_LOOKS; look++) {
      if (client().json("changes", "show", set).path("state").asString().equals("released")) {
        return;
      }
    }
    throw new IllegalStateException("It is not released: " + client().done("changes", "show", set));
  }

  @Override
  public Optional<String> start(List<String> arguments, Path log) throws IOException {
    var said = new ByteArrayOutputStream();
    var out = System.out;
    try (var caught = new PrintStream(said, true, StandardCharsets.UTF_8)) {
      System.setOut(caught);
      context = Ebb.start(arguments.toArray(String[]::new));
    } finally {
      System.setOut(out);
    }
    return Stream.of(said.toString(StandardCharsets.UTF_8).split("\n"))
        .filter(line -> line.startsWith("Link: "))
        .map(line -> line.substring("Link: ".length()).strip())
        .findFirst();
  }

  @Override
  public void kill() {
    end();
  }

  @Override
  public void end() {
    if (context != null) {
      context.close();
    }
  }
}
