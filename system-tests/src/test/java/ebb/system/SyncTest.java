package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A real directory, edited behind Ebb's back, and brought back in step. */
public class SyncTest {
  private static final String HARBOUR = "harbour";
  private static final int PEOPLE = 12;

  private static final String RULE =
      """
      {"application": "harbour", "condition": "person.userType != 'contractor'", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "name.formatted": "person.displayName",
         "title": "person.title", "emails.work": "login + '@skerrow.example'"},
       "groups": ["watch"]}
      """;

  private Stage stage;
  private Slapd slapd;
  private Client client;
  private Path folder;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    slapd = Slapd.start("moduleload syncprov", "overlay syncprov\nsyncprov-sessionlog 1000");
    folder = Files.createTempDirectory("ebb-sync");
    connect();
    client.done(
        "rules",
        "put",
        "harbour-for-all",
        Files.writeString(folder.resolve("rule.json"), RULE).toString());
    bring(1);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
    slapd.close();
  }

  @AfterMethod(alwaysRun = true)
  void inStep() throws Exception {
    connect();
    release(sync());
    assertThat(sync().path("drifted").asInt()).isZero();
  }

  private void connect(String... more) throws Exception {
    var secret = Files.writeString(folder.resolve("secret"), "secret");
    var arguments =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                HARBOUR,
                "--kind=ldap",
                "--set=host=127.0.0.1",
                "--set=port=" + slapd.port(),
                "--set=bindDn=" + StaffDirectory.ADMIN,
                "--set=people=" + StaffDirectory.PEOPLE,
                "--set=groups=" + StaffDirectory.GROUPS,
                "--set=objectClasses=inetOrgPerson,skerrowPerson",
                "--set=switchAttribute=loginAllowed",
                "--set=originAttribute=originKey",
                "--secret-file=" + secret));
    arguments.addAll(List.of(more));
    client.done(arguments.toArray(String[]::new));
  }

  private void bring(int round) throws Exception {
    var file = Newcomers.file(folder, round, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    client.settle();
  }

  @Test
  public void afterAFirstSyncOnlyWhatChangedIsRead() throws Exception {
    assertThat(sync("--everything").path("read").asInt()).isEqualTo(people());

    assertThat(sync().path("read").asInt()).isZero();
    edit(0, "title", "Bosun");
    var found = sync();

    assertThat(found.path("everything").asBoolean()).isFalse();
    assertThat(found.path("read").asInt()).isEqualTo(1);
    assertThat(found.path("drifted").asInt()).isEqualTo(1);
    assertThat(client.done("applications", "syncs", HARBOUR)).contains("1 that changed");
  }

  @Test
  public void whatWasEditedIsPutRightAndNothingElseIsWritten() throws Exception {
    var untouched = csn(2);
    edit(1, "title", "Bosun");
    edit(1, "loginAllowed", "FALSE");
    leave(1, "watch");

    var found = sync();
    var shown = client.done("changes", "show", set(found), "--all");
    assertThat(shown).contains("Bosun", "Mate", "watch");
    release(found);

    assertThat(entry(1).getAttributeValue("title")).isEqualTo("Mate");
    assertThat(entry(1).getAttributeValue("loginAllowed")).isEqualTo("TRUE");
    var again = sync("--everything");
    assertThat(again.path("changeSet").isNull()).isTrue();
    assertThat(again.path("changed").asInt()).isZero();
    assertThat(csn(2)).isEqualTo(untouched);
  }

  @Test
  public void anAccountDeletedBehindOurBackIsMadeAgain() throws Exception {
    delete(2);

    var found = sync();
    assertThat(found.path("missing").asInt()).isEqualTo(1);
    release(found);

    assertThat(entry(2)).isNotNull();
    assertThat(groups()).contains("watch");
  }

  @Test
  public void aStrangerIsOfferedToWhomItIsLikeAndLinkedByOneWord() throws Exception {
    bringSomebodyWithout();
    var login = Newcomers.login(2, 0);
    slapd.add(
        "dn: uid=made by hand," + StaffDirectory.PEOPLE,
        "objectClass: inetOrgPerson",
        "uid: made by hand",
        "givenName: " + given(login),
        "sn: " + family(login),
        "cn: " + login);
    var found = sync();
    assertThat(found.path("unmatched").asInt()).isEqualTo(1);
    var stranger = unmatched().path(0).path("id").asString();

    var candidates = client.json("accounts", "whose", stranger);
    var person = candidates.path("items").path(0).path("person").asString();
    assertThat(client.done("people", "show", person)).containsIgnoringCase(family(login));
    assertThat(client.done("accounts", "link", stranger, person)).contains("is person");

    assertThat(unmatched().size()).isZero();
    assertThat(client.run("accounts", "link", stranger, person).err())
        .contains("belongs to person");
    client.done("accounts", "unlink", stranger);
    client.done("accounts", "leave-alone", stranger, "--reason=tries the radio");
    assertThat(unmatched().size()).isZero();
    assertThat(client.done("accounts", "show", stranger))
        .contains("tries the radio", "made by hand", "last changed there");
  }

  @Test
  public void aRuleOfTheApplicationFindsWhoseItIs() throws Exception {
    bringSomebodyWithout();
    connect("--set=match.userName=account.userName.replace('x-', '')");
    slapd.add(
        "dn: uid=x-" + Newcomers.login(2, 1) + "," + StaffDirectory.PEOPLE,
        "objectClass: inetOrgPerson",
        "uid: x-" + Newcomers.login(2, 1),
        "sn: Whoever",
        "cn: Whoever");

    sync();

    assertThat(unmatched().size()).isZero();
  }

  @Test
  public void anAccountLeftAloneMayDiffer() throws Exception {
    edit(3, "title", "Captain of all");
    var found = sync();
    assertThat(found.path("drifted").asInt()).isEqualTo(1);
    var account = account(3);

    client.done("accounts", "leave-alone", account, "--reason=on trial until June");

    assertThat(sync().path("drifted").asInt()).isZero();
    assertThat(entry(3).getAttributeValue("title")).isEqualTo("Captain of all");
    client.done("accounts", "keep", account);
    assertThat(sync().path("drifted").asInt()).isEqualTo(1);
  }

  @Test
  public void aValueIsTakenToThePersonAndGoesWhereElseItBelongs() throws Exception {
    edit(4, "title", "Pilot");
    sync();

    client.done("accounts", "take", account(4), "title", "--release");
    client.settle();

    assertThat(sync().path("drifted").asInt()).isZero();
    assertThat(entry(4).getAttributeValue("title")).isEqualTo("Pilot");
    assertThat(stage.mailHouse().accounts().byName(Newcomers.login(1, 4)).path("title").asText())
        .isEqualTo("Pilot");
    assertThat(client.run("accounts", "take", account(4), "emails.work").err())
        .contains("cannot be taken");
  }

  @Test
  public void whereThePolicySaysSoDriftCorrectsItself() throws Exception {
    connect("--set=drift=correct", "--set=syncEvery=1");
    edit(5, "title", "Bosun");

    sync();

    waitUntil("corrected", () -> entry(5).getAttributeValue("title").equals("Mate"));
  }

  @Test
  public void aDirectoryThatIsDownIsSaidAndReadAgainLater() throws Exception {
    slapd.stop();
    try {
      assertThat(client.run("applications", "sync", HARBOUR).err()).contains("cannot be reached");
    } finally {
      slapd.resume();
    }

    assertThat(sync().path("drifted").asInt()).isZero();
  }

  /** People whom the rule of the harbour leaves out. */
  private void bringSomebodyWithout() throws Exception {
    var file = Newcomers.file(folder, 2, 2);
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

  private JsonNode unmatched() {
    return client.json("applications", "accounts", HARBOUR, "--unmatched").path("items");
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

  private int people() throws Exception {
    try (var root = slapd.root()) {
      return root.search(StaffDirectory.PEOPLE, SearchScope.ONE, "(objectClass=inetOrgPerson)")
          .getEntryCount();
    }
  }

  private SearchResultEntry entry(int i) throws Exception {
    try (var root = slapd.root()) {
      return root.searchForEntry(
          Slapd.BASE,
          SearchScope.SUB,
          Filter.createEqualityFilter("uid", Newcomers.login(1, i)),
          "*",
          "+");
    }
  }

  private String csn(int i) throws Exception {
    return entry(i).getAttributeValue("entryCSN");
  }

  private void edit(int i, String attribute, String value) throws Exception {
    try (var root = slapd.root()) {
      root.modify(entry(i).getDN(), new Modification(ModificationType.REPLACE, attribute, value));
    }
  }

  private void leave(int i, String group) throws Exception {
    try (var root = slapd.root()) {
      root.modify(
          "cn=%s,%s".formatted(group, StaffDirectory.GROUPS),
          new Modification(ModificationType.DELETE, "member", entry(i).getDN()));
    }
  }

  private void delete(int i) throws Exception {
    try (var root = slapd.root()) {
      root.delete(entry(i).getDN());
    }
  }
}
