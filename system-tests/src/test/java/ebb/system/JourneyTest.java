package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What operators do, through the client, looked at in the applications. */
public class JourneyTest {
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";

  private Stage stage;
  private Client client;
  private int files;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aRowThatIsSomebodyKnownUnderAnotherKeyMakesNoSecondPerson() throws Exception {
    release(bring("hr", row("S1", "Alder", "Ida")));
    var known = person("S1");

    var doubtful = bring("hr", row("S2", "ALDER", "Ida", "S1"));
    assertThat(doubtful.at("/counts/set aside").asInt()).isEqualTo(1);
    client.done("imports", "answer", number(doubtful), "2", "same:" + known.path("id").asString());
    release(doubtful);

    assertThat(people("name.familyName sw \"alder\"")).hasSize(1);
    assertThat(stage.mailHouse().accounts().byName("ida.alder")).isNotNull();
    assertThat(bring("hr", row("S2", "ALDER", "Ida", "S1")).at("/counts/unchanged").asInt())
        .as("the new key is remembered")
        .isEqualTo(1);
  }

  @Test
  public void aRowThatOnlyResemblesSomebodyBecomesSomebodyNewOnAnAnswer() throws Exception {
    release(bring("hr", row("N1", "Birch", "Ida")));
    var doubtful = bring("hr", row("N2", "Birch", "Ida", "N1"));

    release(doubtful);
    assertThat(people("name.familyName sw \"birch\"")).as("nobody without an answer").hasSize(1);

    var again = bring("hr", row("N2", "Birch", "Ida", "N1"));
    client.done("imports", "answer", number(again), "2", "new");
    release(again);
    assertThat(people("name.familyName sw \"birch\"")).hasSize(2);
    assertThat(stage.mailHouse().accounts().byName("ida.birch2")).isNotNull();
  }

  @Test
  public void aFileThatIsTooShortIsStoppedUntilSomebodySaysWhyItIsRight() throws Exception {
    client.done("sources", "put", "crew", stage.home().resolve("files/source.json").toString());
    var all =
        IntStream.rangeClosed(1, 30)
            .mapToObj(i -> row("C" + i, "Crew " + i, "Bo"))
            .toArray(String[]::new);
    release(bring("crew", all));

    var shortFile = bring("crew", true, List.of(all).subList(0, 10).toArray(String[]::new));
    var set = shortFile.path("changeSet").asString();
    var refused = client.run("changes", "release", set);

    assertThat(shortFile.at("/counts/missing").asInt()).isEqualTo(20);
    assertThat(refused.exitCode()).isEqualTo(1);
    assertThat(refused.err()).contains("20 of 30 people are missing").contains("remedy");
    client.done("changes", "release", set, "--reason=the season is over");
    assertThat(client.done("journal", "list")).contains("the season is over");
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("bo.crew-30").path("active").asBoolean())
        .as("missing is not gone: nobody decided")
        .isTrue();
  }

  @Test
  public void aHandOverridesTheFileUntilTheOverrideIsTakenAway() throws Exception {
    release(bring("hr", row("H1", "Cedar", "Ida")));
    var id = person("H1").path("id").asString();

    client.done("people", "edit", id, "title=Bosun", "--release");
    assertThat(title("ida.cedar")).isEqualTo("Bosun");
    release(bring("hr", row("H1", "Cedar", "Ida").replace("Mate", "Master")));
    assertThat(title("ida.cedar")).as("the file is weaker").isEqualTo("Bosun");
    assertThat(client.json("people", "show", id).at("/attributes/title/source").asString())
        .isEqualTo("hand");
    assertThat(client.json("people", "show", id).at("/attributes/title/others/0/value").asString())
        .as("what would hold without it")
        .isEqualTo("Master");

    client.done("people", "edit", id, "title=", "--release");
    assertThat(title("ida.cedar")).as("what the file said meanwhile").isEqualTo("Master");
  }

  @Test
  public void leaveSuspendsAndTheReturnPutsTheSameAccountBack() throws Exception {
    release(bring("hr", row("L1", "Elm", "Ida")));
    var id = person("L1").path("id").asString();
    var before = stage.mailHouse().accounts().byName("ida.elm").path("id").asText();

    client.done("people", "edit", id, "awayFrom=" + client.today().minusDays(2), "--release");
    assertThat(stage.mailHouse().accounts().byName("ida.elm").path("active").asBoolean()).isFalse();
    assertThat(client.json("people", "show", id).path("stage").asString()).isEqualTo("away");

    client.done("people", "edit", id, "awayUntil=" + client.today().minusDays(1), "--release");
    assertThat(stage.mailHouse().accounts().byName("ida.elm").path("active").asBoolean()).isTrue();
    assertThat(stage.mailHouse().accounts().byName("ida.elm").path("id").asText())
        .isEqualTo(before);
  }

  @Test
  public void aDiscardedSetWritesNothingAndCannotBeReleased() throws Exception {
    var made = bring("hr", row("D1", "Fir", "Ida"));
    var set = made.path("changeSet").asString();

    client.done("changes", "discard", set);

    assertThat(client.run("changes", "release", set).err()).contains("is discarded");
    assertThat(people("name.familyName sw \"fir\"")).isEmpty();
    release(bring("hr", row("D1", "Fir", "Ida")));
    assertThat(people("name.familyName sw \"fir\"")).as("it can come again").hasSize(1);
  }

  @Test
  public void aNameTakenByAStrangerIsRefusedAndARetryGoesOn() throws Exception {
    var stranger = stage.mailHouse().accounts().add("ida.gorse");
    var made = bring("hr", row("G1", "Gorse", "Ida"));
    var set = made.path("changeSet").asString();

    var said = client.done("changes", "release", set);
    assertThat(said).contains("1 refused in mail-house").contains("changes retry");
    assertThat(client.json("now").path("changesRefused").asInt()).isEqualTo(1);

    stage.mailHouse().accounts().remove(stranger);
    client.done("changes", "retry", set);
    assertThat(stage.mailHouse().accounts().byName("ida.gorse").path("externalId").asText())
        .startsWith("ebb-");
    assertThat(client.json("now").path("changesRefused").asInt()).isZero();
  }

  @Test
  public void anAccountDeletedBehindEbbsBackIsMissedAndMadeAgain() throws Exception {
    release(bring("hr", row("M1", "Hazel", "Ida")));
    var id = stage.mailHouse().accounts().byName("ida.hazel").path("id").asText();
    stage.mailHouse().accounts().remove(id);

    var found = client.json("applications", "sync", "mail-house");
    assertThat(found.path("missing").asInt()).isEqualTo(1);
    client.done("changes", "release", found.path("changeSet").asString());

    assertThat(stage.mailHouse().accounts().byName("ida.hazel")).isNotNull();
    assertThat(client.json("applications", "sync", "mail-house").path("changeSet").isNull())
        .isTrue();
  }

  @Test
  public void anEditedRuleShowsWhatFollowsBeforeAnythingIsWritten() throws Exception {
    release(bring("hr", row("R1", "Ivy", "Ida")));
    var rule = client.json("rules", "show", "directory-for-all").toString();
    var edited =
        rule.replace(
            "\"description\":", "\"employeeNumber\":\"person.employeeNumber\",\"description\":");
    var file = Files.writeString(stage.home().resolve("files/rule.json"), edited);

    var set = client.json("rules", "put", "directory-for-all", file.toString());
    assertThat(
            client.json("rules", "show", "directory-for-all").path("values").has("employeeNumber"))
        .as("in force")
        .isFalse();
    assertThat(stage.directory().person("ida.ivy").getAttributeValue("employeeNumber")).isNull();

    client.done("changes", "release", set.path("id").asString());
    assertThat(stage.directory().person("ida.ivy").getAttributeValue("employeeNumber"))
        .isEqualTo("R1");
  }

  @Test
  public void aChangedManagerIsWrittenWhereverTheirNameStands() throws Exception {
    release(
        bring(
            "hr",
            row("B1", "Juniper", "Ida"),
            row("B2", "Kelp", "Bo").replace("Skerrow,,", "Skerrow,B1,")));
    assertThat(stage.directory().person("bo.kelp").getAttributeValue("description"))
        .isEqualTo("Reports to Ida Juniper");

    release(bring("hr", row("B1", "Larch", "Ida")));

    assertThat(stage.directory().person("bo.kelp").getAttributeValue("description"))
        .isEqualTo("Reports to Ida Larch");
    assertThat(stage.directory().person("bo.kelp").getAttributeValue("manager"))
        .startsWith("uid=ida.larch,");
  }

  @Test
  public void somebodyNobodyCanReachIsOnTheList() throws Exception {
    release(bring("hr", row("U1", "Maple", "Ida").replace("u1@post.example", "")));
    client.settle();

    assertThat(client.json("now").path("noticesUndeliverable").asInt()).isEqualTo(1);
    assertThat(client.done("notices", "list")).contains("undeliverable");
  }

  @Test
  public void aGrantEndsOnlyAfterARelease() throws Exception {
    release(bring("hr", row("E1", "Oak", "Ida")));
    var id = person("E1").path("id").asString();
    client.done(
        "people",
        "grant",
        id,
        "--application=mail-house",
        "--group=timetable-editors",
        "--reason=plans",
        "--release");
    var account = stage.mailHouse().accounts().byName("ida.oak").path("id").asText();
    assertThat(stage.mailHouse().accounts().groupsOf(account)).containsExactly("timetable-editors");
    var grant = client.json("people", "show", id).at("/grants/0/id").asString();

    client.done("people", "end-grant", id, grant);
    assertThat(stage.mailHouse().accounts().groupsOf(account)).hasSize(1);
    client.done("people", "end-grant", id, grant, "--release");
    assertThat(stage.mailHouse().accounts().groupsOf(account)).isEmpty();
  }

  private JsonNode bring(String source, String... rows) throws IOException {
    return bring(source, false, rows);
  }

  private JsonNode bring(String source, boolean complete, String... rows) throws IOException {
    var file = stage.home().resolve("files/part-" + ++files + ".csv");
    Files.writeString(file, HEADINGS + String.join("", rows));
    return complete
        ? client.json("imports", "add", file.toString(), "--source=" + source, "--complete")
        : client.json("imports", "add", file.toString(), "--source=" + source);
  }

  private static String row(String number, String family, String given) {
    return "%s,%s,%s,Mate,Deck,Skerrow,,employee,%s@post.example,%s,01.03.2024,,M1\n"
        .formatted(number, family, given, number.toLowerCase(Locale.ROOT), mobile(number));
  }

  private static String mobile(String number) {
    return "+47 555 " + (100_000 + Math.abs(number.hashCode() % 100_000));
  }

  /** Somebody with the telephone number of somebody else. */
  private static String row(String number, String family, String given, String sharedWith) {
    return row(number, family, given).replace(mobile(number), mobile(sharedWith));
  }

  private void release(JsonNode made) {
    client.done("changes", "release", made.path("changeSet").asString());
  }

  private static String number(JsonNode made) {
    return made.path("id").asString();
  }

  private JsonNode person(String number) {
    return client
        .json("people", "list", "--filter", "employeeNumber eq \"%s\"".formatted(number))
        .at("/items/0");
  }

  private List<JsonNode> people(String filter) {
    return client.json("people", "list", "--filter", filter).path("items").valueStream().toList();
  }

  private String title(String login) throws Exception {
    return stage.directory().person(login).getAttributeValue("title");
  }
}
