package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Faults.Kind;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Kills the service at random points of a run of 2,000 changes, with faults of the application on
 * top. As often as {@code -Dtrials} says; {@code -Dseed} makes a run come again.
 */
public class KillTrialsTest {
  private static final int TRIALS = Integer.getInteger("trials", 1);
  private static final long SEED = Long.getLong("seed", System.nanoTime());

  /** Each gets an account in both applications. */
  private static final int PEOPLE = 1_000;

  /** Beside being killed: what may befall any request. */
  private static final List<Kind> FAULTS =
      List.of(
          Kind.UNAVAILABLE,
          Kind.BUSY_FOR_A_SECOND,
          Kind.BUSY_UNTIL,
          Kind.TOO_MANY,
          Kind.TOKEN_EXPIRED,
          Kind.CUT_BEFORE_WRITE,
          Kind.CUT_AFTER_WRITE,
          Kind.FAILS_AFTER_WRITE,
          Kind.TRUNCATED,
          Kind.HTML,
          Kind.WRONG_VERSION);

  private static final List<String> WRITTEN = List.of("/scim/v2/Users", "/scim/v2/Bulk");

  private Stage stage;
  private Client client;

  @BeforeMethod
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterMethod(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void everyChangeIsDoneExactlyOnceHoweverOftenTheServiceIsKilled() throws Exception {
    var random = new Random(SEED);
    for (int trial = 0; trial < TRIALS; trial++) {
      var told = "trial %d of seed %d".formatted(trial, SEED);
      // Whoever was told before that several go in one request may find that they do not any more.
      stage.mailHouse().manners().bulk(random.nextBoolean());
      var set = released(trial);
      for (int i = random.nextInt(6); i > 0; i--) {
        var fault = FAULTS.get(random.nextInt(FAULTS.size()));
        stage.mailHouse().faults().order(fault, WRITTEN.get(random.nextInt(2)), 1);
      }
      var before = trial * PEOPLE;
      var killedAt = before + random.nextInt(PEOPLE - 20);
      waitUntil(told, () -> stage.mailHouse().accounts().count() >= killedAt);
      Thread.sleep(random.nextInt(40));
      stage.killService();
      stage.startService();
      waitUntil(told, () -> states(set).equals(Set.of("seen")));

      assertThat(stage.mailHouse().accounts().count()).as(told).isEqualTo(before + PEOPLE);
      assertThat(stage.directory().people()).as(told).isEqualTo(before + PEOPLE);
      assertThat(creates().values()).as(told).hasSize(before + PEOPLE).containsOnly(1);
      stage.mailHouse().faults().clear();
    }
    assertThat(client.run("journal", "verify").exitCode()).isZero();
  }

  /** External id to how many accounts were made with it. */
  private Map<String, Integer> creates() {
    var creates = new HashMap<String, Integer>();
    for (var write : stage.mailHouse().journal()) {
      if (write.what().equals("POST /scim/v2/Users")) {
        creates.merge(write.sent().path("externalId").asText(), 1, Integer::sum);
      }
    }
    return creates;
  }

  private String released(int trial) throws IOException {
    var made =
        client.json(
            "imports",
            "add",
            Newcomers.file(stage.home(), trial, PEOPLE).toString(),
            "--source=hr");
    var set = made.path("changeSet").asString();
    client.done("changes", "release", set, "--no-wait", "--reason=a trial");
    return set;
  }

  private Set<String> states(String set) {
    var states = new HashSet<String>();
    for (JsonNode count : client.json("changes", "show", set).path("counts")) {
      states.add(count.path("state").asString());
    }
    return states;
  }
}
