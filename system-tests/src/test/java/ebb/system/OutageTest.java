package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.SkerrowFerries;
import ebb.demo.Stage;
import ebb.standins.Faults;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Bad days: an application that is down, answers that are lost, a service that is killed. */
public class OutageTest {
  private Stage stage;
  private Client client;
  private Path dayOne;

  @BeforeMethod
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    dayOne = stage.home().resolve("files/hr-day-1.csv");
    new SkerrowFerries(client.today()).writeDayOne(dayOne);
    client.done("imports", "add", dayOne.toString(), "--source=hr", "--complete");
  }

  @AfterMethod(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aServiceThatIsKilledGoesOnWhereItWasAndDoesNothingTwice() throws Exception {
    client.done("changes", "release", SetUp.FIRST_SET, "--no-wait");
    for (int kill = 0; kill < 2; kill++) {
      int seen = stage.mailHouse().accounts().count();
      waitUntil(() -> stage.mailHouse().accounts().count() > seen + 30);
      stage.killService();
      stage.startService();
    }
    waitUntil(() -> states().equals(Set.of("seen")));

    assertThat(stage.directory().people()).isEqualTo(420);
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(employees());
    assertThat(stage.mailHouse().writes().stream().filter("POST /scim/v2/Users"::equals))
        .hasSize(employees());
    assertThat(client.run("journal", "verify").exitCode()).isZero();
  }

  @Test
  public void lostAnswersAndRefusalsToAnswerMakeNoSecondAccount() throws Exception {
    stage.mailHouse().faults().order(Faults.Kind.CUT_AFTER_WRITE, "POST /scim/v2/Users", 3);
    stage.mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "POST /scim/v2/Users", 2);
    stage.mailHouse().faults().order(Faults.Kind.HTML, "POST /scim/v2/Users", 1);

    client.done("changes", "release", SetUp.FIRST_SET);

    assertThat(states()).containsExactly("seen");
    assertThat(stage.mailHouse().writes().stream().filter("POST /scim/v2/Users"::equals))
        .hasSize(employees());
  }

  @Test
  public void whileOneApplicationIsDownTheOthersGoOnAndTheAnswerSaysSo() throws Exception {
    stage.mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "/scim/v2/", 1_000_000);
    client.done("changes", "release", SetUp.FIRST_SET, "--no-wait");
    waitUntil(() -> stage.directory().people() == 420);
    waitUntil(
        () ->
            client
                .done("changes", "show", SetUp.FIRST_SET)
                .matches("(?s).*420 seen.* in mail-house: .*next try .*"));

    stage.mailHouse().faults().clear();
    waitUntil(() -> states().equals(Set.of("seen")));
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(employees());
  }

  private HashSet<String> states() {
    var states = new HashSet<String>();
    for (JsonNode count : client.json("changes", "show", SetUp.FIRST_SET).path("counts")) {
      states.add(count.path("state").asString());
    }
    return states;
  }

  private int employees() {
    return client
        .json("changes", "show", SetUp.FIRST_SET)
        .path("counts")
        .valueStream()
        .filter(count -> count.path("application").asString().equals("mail-house"))
        .mapToInt(count -> count.path("count").asInt())
        .sum();
  }
}
