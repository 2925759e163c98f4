package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The service is killed while a delivery is taken, read, or let through. */
public class DeliveryKilledTest {
  private static final int A_DAY = 150;

  /** After the file has left the folder: while it is looked at, while it is read, and later. */
  private static final List<Long> KILLED_AFTER_MILLIS = List.of(0L, 250L, 1_200L);

  private Stage stage;
  private Client client;
  private Path folder;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    folder = Files.createDirectories(stage.home().resolve("in"));
    client.done(
        "sources",
        "put",
        "crew",
        Files.writeString(
                stage.home().resolve("crew.json"),
                """
                {"rank": 100, "key": "No", "columns": {"Family": "name.familyName",
                 "Given": "name.givenName", "Kind": "userType"}}
                """)
            .toString());
    client.done("feeds", "put", "crew", "--kind=folder", "--set=path=" + folder);
    client.done("feeds", "on", "crew");
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void everyDeliveryComesInOnceWheneverTheServiceIsKilled() throws Exception {
    for (int day = 1; day <= KILLED_AFTER_MILLIS.size(); day++) {
      var file = folder.resolve("day-%d.csv".formatted(day));
      var part = Files.writeString(folder.resolve("day.part"), rows(day));
      Files.move(part, file);
      waitUntil("the file is taken", () -> !Files.exists(file));
      Thread.sleep(KILLED_AFTER_MILLIS.get(day - 1));
      stage.killService();
      stage.startService();

      int people = day * A_DAY;
      waitUntil("all accounts of day " + day, () -> stage.mailHouse().accounts().count() == people);
      client.settle();
      assertThat(stage.mailHouse().writes().stream().filter("POST /scim/v2/Users"::equals))
          .as("accounts made by day %d, none of them twice", day)
          .hasSize(people);
    }

    try (var archived = Files.list(folder.resolve("archive"))) {
      assertThat(archived).as("each once").hasSize(KILLED_AFTER_MILLIS.size());
    }
    assertThat(outcomes()).as("nothing hangs").doesNotContain("running");
    assertThat(client.json("changes", "list", "--state=shown").path("items"))
        .as("nothing is left over for somebody to release twice")
        .isEmpty();
    assertThat(client.run("journal", "verify").exitCode()).isZero();
  }

  /** Everybody of the days before, and as many again. */
  private static String rows(int day) {
    var text = new StringBuilder("No,Family,Given,Kind\n");
    for (int i = 0; i < day * A_DAY; i++) {
      text.append("%d,F%s,G%s,employee\n".formatted(i, letters(i), letters(i * 31)));
    }
    return text.toString();
  }

  private static String letters(int number) {
    var letters = new StringBuilder();
    for (int left = number + 26 * 26; left > 0; left /= 26) {
      letters.append((char) ('a' + left % 26));
    }
    return letters.toString();
  }

  private List<String> outcomes() {
    var outcomes = new ArrayList<String>();
    client
        .json("feeds", "runs", "crew", "--limit=100")
        .path("items")
        .forEach(run -> outcomes.add(run.path("outcome").asString()));
    return outcomes;
  }
}
