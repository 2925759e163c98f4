package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.StaffDirectory;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Findings in a real directory, settled many at once from the command line. */
public class FindingsTest {
  private static final int PEOPLE = 12;

  private Stage stage;
  private Harbour harbour;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    harbour = new Harbour(client);
    harbour.bring(1, PEOPLE);
    sync();
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
    harbour.close();
  }

  @Test
  public void aValueThatComesBackAgainAndAgainIsAQuarrel() throws Exception {
    for (int i = 0; i < 3; i++) {
      harbour.edit(0, "title", "Bosun");
      sync();
      release(settle("put-right", "drifted"));
      waitUntil("put right", () -> count("drifted") == 0);
    }
    assertThat(client.done("findings", "list", Harbour.NAME)).doesNotContain("keeps writing");

    harbour.edit(0, "title", "Bosun");
    sync();

    assertThat(client.done("findings", "list", Harbour.NAME))
        .contains("Somebody else keeps writing title", "it came back 3 times");
    assertThat(client.done("findings", "show", Harbour.NAME, "drifted"))
        .contains("title is Bosun, should be Mate (came back 3 times)");
    release(settle("put-right", "drifted"));
  }

  @Test
  public void valuesOfManyAreTakenToTheirPeopleAndGoWhereElseTheyBelong() throws Exception {
    for (int i = 1; i < 4; i++) {
      harbour.edit(i, "title", "Pilot " + i);
    }
    harbour.edit(4, "sn", "Elsewhere");
    sync();

    var taken = settle("take", "drifted", "--attribute=title");
    assertThat(taken.path("settled").asInt()).isEqualTo(3);
    assertThat(taken.path("leftOut").asInt()).isEqualTo(1);
    release(taken);

    waitUntil("only the name differs", () -> count("drifted") == 1);
    assertThat(stage.mailHouse().accounts().byName(Newcomers.login(1, 3)).path("title").asText())
        .isEqualTo("Pilot 3");
    release(settle("put-right", "drifted"));
  }

  @Test
  public void doubtfulAccountsBecomeThoseOfTheLikeliestAndTheSetIsTakenBack() throws Exception {
    var file = Newcomers.file(harbour.folder(), 2, 3);
    Files.writeString(file, Files.readString(file).replace(",employee,", ",contractor,"));
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    client.settle();
    for (int i = 0; i < 3; i++) {
      add("old" + i, Newcomers.login(2, i));
    }
    sync();
    waitUntil("looked at", () -> count("doubtful") == 3);

    var linked = settle("link", "doubtful");
    assertThat(client.done("changes", "show", set(linked), "--all")).isNotBlank();
    assertThat(count("doubtful")).as("before it is released").isEqualTo(3);
    client.done("changes", "release", set(linked));
    client.settle();
    assertThat(count("doubtful")).isZero();

    var back = client.json("changes", "take-back", set(linked));
    client.done("changes", "release", back.path("id").asString(), "--reason=a trial");
    client.settle();
    sync("--everything");
    assertThat(count("unmatched")).as("said to be not theirs").isEqualTo(3);
    client.json("findings", "leave-alone", Harbour.NAME, "unmatched", "--reason=old logins");
    assertThat(count("unmatched")).isZero();
    assertThat(client.done("findings", "show", Harbour.NAME, "left-alone"))
        .contains("old0", "old logins");
    var one = client.json("findings", "show", Harbour.NAME, "left-alone").path("items").path(0);
    assertThat(settle("keep", "left-alone", one.path("id").asString()).path("settled").asInt())
        .isEqualTo(1);
    waitUntil("looked at anew", () -> count("unmatched") == 1);
    client.json("findings", "leave-alone", Harbour.NAME, "unmatched", "--reason=old logins");
  }

  @Test
  public void anAccountAdoptedTwiceIsOnePersonAndKeepsItsLogin() throws Exception {
    add("cap-o-star", "Given.Unheard");
    add("nameless", "nameless");
    sync();
    waitUntil("looked at", () -> count("unmatched") == 2);

    var adopted = settle("adopt", "unmatched", "--as=visitor", "--suspended");
    var again = settle("adopt", "unmatched", "--as=visitor", "--suspended");
    assertThat(again.path("settled").asInt()).isEqualTo(1);
    assertThat(again.path("examples").path(0).path("problem").path("code").asString())
        .isEqualTo("account-without-name");
    client.done("changes", "release", set(adopted));
    client.done("changes", "release", set(again));
    client.settle();

    var people = client.json("people", "list", "--filter=userType eq \"visitor\"").path("items");
    assertThat(people.size()).isEqualTo(1);
    assertThat(people.path(0).path("login").asString()).isEqualTo("cap-o-star");
    assertThat(client.done("people", "show", people.path(0).path("id").asString()))
        .contains("suspended", "found there");
    sync("--everything");
    assertThat(count("drifted") + count("on-there") + count("missing")).isZero();
    client.json("findings", "leave-alone", Harbour.NAME, "unmatched", "--reason=a lamp");
  }

  @Test
  public void aGroupThatMeansNothingIsKeptWithItsMembersOrLeftAlone() throws Exception {
    harbour.join(5, "crew", "uniqueMember");
    harbour.join(6, "crew", "uniqueMember");
    sync();
    assertThat(client.done("applications", "groups", Harbour.NAME)).contains("not known");
    client.done("applications", "leave-group", Harbour.NAME, "crew", "--reason=of the old port");
    assertThat(client.done("applications", "groups", Harbour.NAME))
        .contains("nothing here: of the old port");
    client.done("applications", "leave-group", Harbour.NAME, "crew");

    var kept = client.json("applications", "keep-members", Harbour.NAME, "crew");
    assertThat(kept.path("settled").asInt()).isEqualTo(2);
    release(kept);

    assertThat(client.done("applications", "groups", Harbour.NAME)).contains("granted");
    harbour.leave(5, "crew", "uniqueMember");
    sync();
    assertThat(client.done("findings", "show", Harbour.NAME, "drifted"))
        .contains("group crew is not in it, should be in it");
    release(settle("put-right", "drifted"));
    assertThat(client.run("applications", "leave-group", Harbour.NAME, "none", "--reason=x").err())
        .contains("No group none");
  }

  @Test
  public void whatIsOfAnotherKindIsNotSettledSo() {
    assertThat(client.run("findings", "adopt", Harbour.NAME, "drifted").err())
        .contains("cannot be settled so");
    assertThat(client.run("findings", "link", Harbour.NAME, "unmatched").err())
        .contains("cannot be settled so");
    assertThat(client.run("findings", "show", Harbour.NAME, "odd").err()).contains("odd");
    assertThat(client.run("findings", "adopt", Harbour.NAME, "unmatched", "1").err())
        .contains("settled meanwhile");
  }

  private void add(String uid, String login) throws Exception {
    var names = login.split("\\.");
    harbour
        .slapd()
        .add(
            "dn: uid=%s,%s".formatted(uid, StaffDirectory.PEOPLE),
            "objectClass: inetOrgPerson",
            "uid: " + uid,
            names.length > 1 ? "givenName: " + names[0] : "description: no name",
            "sn: " + names[names.length - 1],
            "cn: " + uid);
  }

  private int count(String kind) {
    for (var one : client.json("findings", "list", Harbour.NAME).path("kinds")) {
      if (one.path("kind").asString().equals(kind)) {
        return one.path("count").asInt();
      }
    }
    return 0;
  }

  private void sync(String... more) {
    var arguments = new ArrayList<>(List.of("applications", "sync", Harbour.NAME));
    arguments.addAll(List.of(more));
    client.json(arguments.toArray(String[]::new));
  }

  private JsonNode settle(String act, String kind, String... more) {
    var arguments = new ArrayList<>(List.of("findings", act, Harbour.NAME, kind));
    arguments.addAll(List.of(more));
    return client.json(arguments.toArray(String[]::new));
  }

  private static String set(JsonNode settled) {
    return settled.path("changeSet").asString();
  }

  private void release(JsonNode settled) throws Exception {
    client.done("changes", "release", set(settled));
    client.settle();
  }
}
