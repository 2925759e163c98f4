package ebb.bench;

import ebb.demo.Client;
import ebb.demo.ServiceProcess;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;

/**
 * A few people changed among many, against as many among few, by the real service: what a change
 * costs must not grow with those whom it does not concern. And the rehearsal of a rule for all.
 */
final class EvaluateSome {
  private static final int FEW = 600;

  private final Path folder;
  private final Path jar;
  private final Trial trial;

  EvaluateSome(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  List<Measured> run() throws Exception {
    try (var large = stage("many");
        var small = stage("few")) {
      var among = new Client(large.url(), large.token());
      var alone = new Client(small.url(), small.token());
      // Both get ready at once; what is measured comes one after the other.
      CompletableFuture.allOf(
              CompletableFuture.runAsync(() -> bring(among, large, trial.n())),
              CompletableFuture.runAsync(() -> bring(alone, small, FEW)))
          .join();
      return List.of(
          edited("evaluate-changed", among, alone, 100),
          edited("evaluate-unit", among, alone, 500),
          rehearsed(among, alone));
    }
  }

  private Stage stage(String name) throws Exception {
    return new Stage(folder.resolve(name), new ServiceProcess(jar, ServiceProcess.AS_SERVED), 0);
  }

  private static void bring(Client client, Stage stage, int people) {
    try {
      bringAll(client, stage, people);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void bringAll(Client client, Stage stage, int people) throws IOException {
    SetUp.run(client, stage);
    client.done("applications", "pause", "directory", "--why=only what is computed is measured");
    client.done("applications", "pause", "mail-house", "--why=only what is computed is measured");
    var file = People.file(Files.createDirectories(stage.home().resolve("in")), 1, people);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    var set = made.path("changeSet").asString();
    client.done("changes", "release", set, "--no-wait", "--reason=a benchmark");
    while (!client.json("changes", "show", set).path("state").asString().equals("released")) {
      Held.sleep(500);
    }
  }

  private Measured edited(String name, Client many, Client few, int people) throws Exception {
    var took =
        trial.medians(
            name,
            (number, _) ->
                new double[] {
                  move(many, people, "Unit " + number), move(few, people, "Unit " + number)
                });
    return new Measured(name, took[0], took[1], 2, "s", people);
  }

  /** Until what follows is shown; then it is given up. */
  private static double move(Client client, int people, String unit) {
    var arguments = new ArrayList<>(List.of("people", "move", unit));
    IntStream.rangeClosed(1, people).mapToObj(Integer::toString).forEach(arguments::add);
    var begin = System.nanoTime();
    var set = client.json(arguments.toArray(String[]::new));
    var took = (System.nanoTime() - begin) / 1e9;
    client.done("changes", "discard", set.path("id").asString());
    return took;
  }

  /** A rule that changes nothing, so that computing is all there is; per person as few. */
  private Measured rehearsed(Client many, Client few) throws Exception {
    var took =
        trial.medians(
            "rehearsal",
            (_, people) -> new double[] {rehearse(many), rehearse(few) * people / FEW});
    return new Measured("rehearsal", took[0], took[1], 1.2, "s", trial.n());
  }

  private double rehearse(Client client) throws IOException {
    var file =
        Files.writeString(
            folder.resolve("rule.json"),
            "{\"application\": \"directory\", \"condition\": \"person.title == 'Nobody'\","
                + " \"values\": {\"userName\": \"login\"}}");
    var begin = System.nanoTime();
    var set = client.json("rules", "put", "nobody", file.toString());
    var took = (System.nanoTime() - begin) / 1e9;
    client.done("changes", "discard", set.path("id").asString());
    return took;
  }
}
