package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.Scenario;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.MailHouse;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
import org.h2.tools.Server;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Two processes on one database of an H2 server: they share the work, and do nothing twice. */
public class TwoProcessesTest {
  private Server server;
  private Stage first;
  private Stage second;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    var folder = Files.createTempDirectory(Files.createDirectories(Path.of("target/homes")), "h2");
    server =
        Server.createTcpServer(
                "-tcpPort", "0", "-baseDir", folder.toAbsolutePath().toString(), "-ifNotExists")
            .start();
    var database = "ebb.database-url=jdbc:h2:tcp://127.0.0.1:" + server.getPort() + "/ebb";
    first = Services.start(database);
    client = new Client(first.url(), first.token());
    var keys = Files.createTempDirectory(Path.of("target/homes"), "keys");
    Files.copy(first.home().resolve("secret.key"), keys.resolve("secret.key"));
    second = Services.startIn(keys, database);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    if (second != null) {
      second.close();
    }
    first.close();
    server.stop();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void twoProcessesShareTheWorkAndOneGoesOnAloneWhenTheOtherIsKilled() throws Exception {
    bothCarryOutOneReleaseAndNoAccountIsMadeTwice();
    oneGoesByTheSettingsThatWereEditedAtTheOther();
    whenOneIsKilledTheOtherGoesOn();
  }

  private void bothCarryOutOneReleaseAndNoAccountIsMadeTwice() throws Exception {
    Scenario.showDayOne(first, new PrintStream(OutputStream.nullOutputStream()));
    var other = new Client(second.url(), first.token());
    other.done("changes", "release", SetUp.FIRST_SET, "--no-wait");
    client.settle();

    assertThat(states()).containsExactly("seen");
    assertThat(first.directory().people()).isEqualTo(420);
    assertThat(first.mailHouse().writes().stream().filter("POST /scim/v2/Users"::equals))
        .hasSize(first.mailHouse().accounts().count());
    assertThat(client.run("journal", "verify").exitCode()).isZero();
    assertThat(other.json("changes", "show", SetUp.FIRST_SET).path("counts"))
        .as("both tell the same")
        .isEqualTo(client.json("changes", "show", SetUp.FIRST_SET).path("counts"));
  }

  private void oneGoesByTheSettingsThatWereEditedAtTheOther() throws Exception {
    var other = new Client(second.url(), first.token());
    try (var house = new MailHouse(0, "of today")) {
      connect(client, house, "of today");
      other.done("applications", "inspect", "dry-dock");

      connect(client, house, "of yesterday");
      waitUntil(() -> other.run("applications", "inspect", "dry-dock").exitCode() == 1);
      connect(client, house, "of today");
      waitUntil(() -> other.run("applications", "inspect", "dry-dock").exitCode() == 0);
    }
  }

  private static void connect(Client client, MailHouse house, String token) throws Exception {
    var secret = Files.writeString(Files.createTempFile(Path.of("target"), "token", ""), token);
    client.done(
        "applications",
        "connect",
        "dry-dock",
        "--kind=scim",
        "--set=address=" + house.scim(),
        "--set=network=internal",
        "--secret-file=" + secret);
  }

  private void whenOneIsKilledTheOtherGoesOn() throws Exception {
    var set = client.json("people", "edit", "5", "title=Pilot");
    first.killService();
    var other = new Client(second.url(), first.token());
    other.done("changes", "release", set.path("id").asString());
    other.settle();

    assertThat(other.done("people", "show", "5")).contains("Pilot");
  }

  private Set<String> states() {
    var states = new TreeSet<String>();
    client
        .json("changes", "show", SetUp.FIRST_SET)
        .path("counts")
        .forEach(count -> states.add(count.path("state").asString()));
    return states;
  }
}
