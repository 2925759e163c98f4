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
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A real directory, edited behind Ebb's back, and brought back in step. */
public class SyncTest {
  private static final String HARBOUR = Harbour.NAME;
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
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
    harbour.close();
  }

  @AfterMethod(alwaysRun = true)
  void inStep() throws Exception {
    harbour.connect();
    release(sync());
    assertThat(sync().path("drifted").asInt()).isZero();
  }

  @Test
  public void afterAFirstSyncOnlyWhatChangedIsRead() throws Exception {
    assertThat(sync("--everything").path("read").asInt()).isEqualTo(harbour.people());

    assertThat(sync().path("read").asInt()).isZero();
    harbour.edit(0, "title", "Bosun");
    var found = sync();

    assertThat(found.path("everything").asBoolean()).isFalse();
    assertThat(found.path("read").asInt()).isEqualTo(1);
    assertThat(found.path("drifted").asInt()).isEqualTo(1);
    assertThat(client.done("applications", "syncs", HARBOUR)).contains("1 that changed");
  }

  @Test
  public void whatWasEditedIsPutRightAndNothingElseIsWritten() throws Exception {
    var untouched = harbour.csn(2);
    harbour.edit(1, "title", "Bosun");
    harbour.edit(1, "loginAllowed", "FALSE");
    harbour.leave(1, "watch", "member");

    var found = sync();
    var shown = client.done("changes", "show", set(found), "--all");
    assertThat(shown).contains("Bosun", "Mate", "watch");
    release(found);

    assertThat(harbour.entry(1).getAttributeValue("title")).isEqualTo("Mate");
    assertThat(harbour.entry(1).getAttributeValue("loginAllowed")).isEqualTo("TRUE");
    var again = sync("--everything");
    assertThat(again.path("changeSet").isNull()).isTrue();
    assertThat(again.path("changed").asInt()).isZero();
    assertThat(harbour.csn(2)).isEqualTo(untouched);
  }

  @Test
  public void anAccountDeletedBehindOurBackIsMadeAgain() throws Exception {
    harbour.delete(2);

    var found = sync();
    assertThat(found.path("missing").asInt()).isEqualTo(1);
    release(found);

    assertThat(harbour.entry(2)).isNotNull();
    assertThat(groups()).contains("watch");
  }

  @Test
  public void aStrangerIsOfferedToWhomItIsLikeAndLinkedByOneWord() throws Exception {
    bringSomebodyWithout();
    var login = Newcomers.login(2, 0);
    harbour
        .slapd()
        .add(
            "dn: uid=made by hand," + StaffDirectory.PEOPLE,
            "objectClass: inetOrgPerson",
            "uid: made by hand",
            "givenName: " + given(login),
            "sn: " + family(login),
            "cn: " + login);
    var found = sync();
    assertThat(found.path("unmatched").asInt()).isEqualTo(1);
    var stranger = found("doubtful").path(0).path("id").asString();

    var candidates = client.json("accounts", "whose", stranger);
    var person = candidates.path("items").path(0).path("person").asString();
    assertThat(client.done("people", "show", person)).containsIgnoringCase(family(login));
    assertThat(client.done("accounts", "link", stranger, person)).contains("is person");

    assertThat(foundOfNobody()).isZero();
    assertThat(client.run("accounts", "link", stranger, person).err())
        .contains("belongs to person");
    client.done("accounts", "unlink", stranger);
    client.done("accounts", "leave-alone", stranger, "--reason=tries the radio");
    assertThat(foundOfNobody()).isZero();
    assertThat(client.done("accounts", "show", stranger))
        .contains("tries the radio", "made by hand", "last changed there");
  }

  @Test
  public void aRuleOfTheApplicationFindsWhoseItIs() throws Exception {
    bringSomebodyWithout();
    harbour.connect("--set=match.userName=account.userName.replace('x-', '')");
    harbour
        .slapd()
        .add(
            "dn: uid=x-" + Newcomers.login(2, 1) + "," + StaffDirectory.PEOPLE,
            "objectClass: inetOrgPerson",
            "uid: x-" + Newcomers.login(2, 1),
            "sn: Whoever",
            "cn: Whoever");

    sync();

    assertThat(foundOfNobody()).isZero();
    var person =
        client
            .json(
                "people", "list", "--filter", "userName eq \"%s\"".formatted(Newcomers.login(2, 1)))
            .at("/items/0/id")
            .asString();
    assertThat(client.json("people", "show", person).path("accounts"))
        .as("theirs, and nobody else's")
        .anyMatch(
            one ->
                one.path("application").asString().equals(HARBOUR)
                    && one.toString().contains("x-" + Newcomers.login(2, 1)));
  }

  @Test
  public void anAccountLeftAloneMayDiffer() throws Exception {
    harbour.edit(3, "title", "Captain of all");
    var found = sync();
    assertThat(found.path("drifted").asInt()).isEqualTo(1);
    var account = account(3);

    client.done("accounts", "leave-alone", account, "--reason=on trial until June");

    assertThat(sync().path("drifted").asInt()).isZero();
    assertThat(harbour.entry(3).getAttributeValue("title")).isEqualTo("Captain of all");
    client.done("accounts", "keep", account);
    assertThat(sync().path("drifted").asInt()).isEqualTo(1);
  }

  @Test
  public void aValueIsTakenToThePersonAndGoesWhereElseItBelongs() throws Exception {
    harbour.edit(4, "title", "Pilot");
    sync();

    client.done("accounts", "take", account(4), "title", "--release");
    client.settle();

    assertThat(sync().path("drifted").asInt()).isZero();
    assertThat(harbour.entry(4).getAttributeValue("title")).isEqualTo("Pilot");
    assertThat(stage.mailHouse().accounts().byName(Newcomers.login(1, 4)).path("title").asText())
        .isEqualTo("Pilot");
    assertThat(client.run("accounts", "take", account(4), "emails.work").err())
        .contains("cannot be taken");
  }

  @Test
  public void whereThePolicySaysSoDriftCorrectsItself() throws Exception {
    harbour.connect("--set=drift=correct", "--set=syncEvery=1");
    harbour.edit(5, "title", "Bosun");

    sync();

    waitUntil("corrected", () -> harbour.entry(5).getAttributeValue("title").equals("Mate"));
  }

  @Test
  public void aDirectoryThatIsDownIsSaidAndReadAgainLater() throws Exception {
    harbour.slapd().stop();
    try {
      assertThat(client.run("applications", "sync", HARBOUR).err()).contains("cannot be reached");
    } finally {
      harbour.slapd().resume();
    }

    assertThat(sync().path("drifted").asInt()).isZero();
  }

  /** People whom the rule of the harbour leaves out. */
  private void bringSomebodyWithout() throws Exception {
    var file = Newcomers.file(harbour.folder(), 2, 2);
    Files.writeString(file, Files.readString(file).replace(",employee,", ",contractor,"));
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    if (!made.path("changeSet").isNull()) {
      client.run("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
      client.settle();
    }
  }

  private static String given(String login) {
    return login.substring(0, login.indexOf('.'));
  }

  private static String family(String login) {
    return login.substring(login.indexOf('.') + 1);
  }

  private JsonNode sync(String... more) {
    var arguments = new ArrayList<>(List.of("applications", "sync", HARBOUR));
    arguments.addAll(List.of(more));
    return client.json(arguments.toArray(String[]::new));
  }

  private static String set(JsonNode found) {
    return found.path("changeSet").asString();
  }

  private void release(JsonNode found) throws Exception {
    if (!found.path("changeSet").isNull()) {
      client.done("changes", "release", set(found), "--reason=a trial");
      client.settle();
    }
  }

  private int foundOfNobody() {
    var all = 0;
    for (var kind : client.json("findings", "list", HARBOUR).path("kinds")) {
      if (List.of("doubtful", "duplicate", "unmatched", "unlooked")
          .contains(kind.path("kind").asString())) {
        all += kind.path("count").asInt();
      }
    }
    return all;
  }

  private JsonNode found(String kind) {
    return client.json("findings", "show", HARBOUR, kind).path("items");
  }

  private String groups() {
    return client.done("applications", "groups", HARBOUR);
  }

  private String account(int i) {
    for (var account :
        client.json("applications", "accounts", HARBOUR, "--limit=1000").path("items")) {
      if (account.path("name").asString().equals(Newcomers.login(1, i))) {
        return account.path("id").asString();
      }
    }
    throw new AssertionError("no account of " + i);
  }
}
