package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;

/** Units, groups, memberships and pictures that come along with a list of people. */
public class LinkedFilesTest {
  private static final String PEOPLE =
      """
      Crew no,Family name,Given name,Unit,Kind
      1,Holm,Ida,D1,employee
      2,Vik,Per,D2,employee
      3,Ness,Åse,D9,employee
      """;
  private static final String UNITS = "Unit,Name,Parent\nF,Fleet,\nD1,Deck,F\nD2,Engine,F\n";
  private static final String GROUPS =
      "Group,Application,Name\nG1,mail-house,watch-keepers\nG2,nowhere,x\n";
  private static final String MEMBERSHIPS =
      """
      Crew no,Group,From,Until
      1,G1,,
      2,G1,,2099-12-31
      3,G1,,
      8,G1,,
      2,G9,,
      """;

  private Stage stage;
  private Client client;
  private Path folder;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start("ebb.tell-of-work-longer-than=0s");
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    stage.mailHouse().accounts().addGroup("watch-keepers");
    folder = Files.createDirectories(stage.home().resolve("bundles"));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void aBundleIsKeptInStepAndItsTreeOfUnitsIsFollowedByRules() throws Exception {
    aBundleIsJoinedByItsKeysCheckedAcrossItsFilesAndKeptInStep();
    aRuleThatGoesByTheTreeMeansOthersOnceAUnitStandsElsewhere();
  }

  private void aBundleIsJoinedByItsKeysCheckedAcrossItsFilesAndKeptInStep() throws Exception {
    // In any order; the list of people is told by not being one of the others.
    var first =
        add(
            file("memberships.csv", MEMBERSHIPS),
            file("groups.csv", GROUPS),
            file("people.csv", PEOPLE),
            file("units.csv", UNITS));
    client.done(
        "imports",
        "map",
        id(first),
        "--source=crew",
        "--column=Crew no=employeeNumber",
        "--column=Kind=userType");

    assertThat(codes(first, "people", "refused")).containsExactly("unit-unknown");
    assertThat(codes(first, "groups", "refused")).containsExactly("group-without-application");
    assertThat(codes(first, "memberships", "refused"))
        .containsExactly("member-unknown", "group-unknown");
    assertThat(codes(first, "memberships", "set-aside")).containsExactly("member-waits");

    client.done("imports", "mend", id(first), "4", "Unit=D2");
    assertThat(codes(first, "memberships", "set-aside")).as("it follows its person").isEmpty();
    release(first);
    assertThat(unit("Ness")).isEqualTo("Engine");
    assertThat(groupsOf("ase.ness")).containsExactly("watch-keepers");
    assertThat(groupsOf("per.vik")).containsExactly("watch-keepers");
    assertThat(client.done("people", "show", person("Ness"))).contains("crew says so");

    // The same once more: nothing; then somebody leaves the group, and a unit is renamed.
    var same =
        bundle(PEOPLE.replace("D9", "D2"), UNITS, MEMBERSHIPS.replace("8,G1,,\n2,G9,,\n", ""));
    assertThat(set(same).path("people").asLong()).isZero();
    var next =
        bundle(
            PEOPLE.replace("D9", "D2"),
            UNITS.replace("Engine", "Engine room"),
            "Crew no,Group\n1,G1\n3,G1\n");
    assertThat(counts(next, "units").path("changed").asLong()).isEqualTo(1);
    release(next);
    assertThat(unit("Ness")).isEqualTo("Engine room");
    assertThat(groupsOf("per.vik")).isEmpty();
    assertThat(groupsOf("ida.holm")).containsExactly("watch-keepers");

    var report = folder.resolve("report.csv");
    client.done("imports", "report", id(next), report.toString());
    assertThat(Files.readString(report)).contains("D2,Engine room,changed,,,,units");

    // A row that cannot be read ends nothing: whoever mistypes a date keeps their group.
    var mistyped =
        bundle(
            PEOPLE.replace("D9", "D2"),
            UNITS.replace("Engine", "Engine room"),
            "Crew no,Group,Until\n1,G1,31.31.2027\n3,G1,\n");
    assertThat(codes(mistyped, "memberships", "refused")).containsExactly("date-invalid");
    assertThat(set(mistyped).path("people").asLong()).isZero();

    // A list of people alone speaks of the units that were said last.
    var alone =
        client.json(
            "imports", "add", file("people.csv", PEOPLE.replace("3,Ness,Åse,D9", "3,Ness,Åse,F")));
    assertThat(counts(alone).path("unchanged").asLong()).isEqualTo(2);
    assertThat(alone.at("/counts/changed").asLong()).isEqualTo(1);

    var emptied =
        client.run(
            "imports",
            "add",
            file("people.csv", PEOPLE),
            file("memberships.csv", "Crew no,Group\n"),
            "--complete");
    assertThat(emptied.err()).contains("would take everybody out of their groups");

    // Taken back, people are where and in what they were.
    client.done("changes", "take-back", set(next).path("id").asString(), "--release");
    client.settle();
    assertThat(unit("Ness")).isEqualTo("Engine");
    assertThat(groupsOf("per.vik")).containsExactly("watch-keepers");
    pictures();
  }

  private void pictures() throws Exception {
    var zip = folder.resolve("pictures.zip");
    var good = picture("1.png", 40);
    var wide = picture("2.png", 5_000);
    var nobodys = picture("77.png", 40);
    var none = file("3.jpg", "no picture");
    var refused = client.run("imports", "add", zipped(zip, good, wide, nobodys, none).toString());
    assertThat(refused.err()).contains("holds no list of people").contains("Say which source");

    var made = client.json("imports", "add", zip.toString(), "--source=crew");
    assertThat(codes(made, "pictures", "refused"))
        .containsExactly("picture-refused", "picture-refused", "picture-of-nobody");
    assertThat(counts(made, "pictures").path("new").asLong()).isEqualTo(1);
    release(made);

    var shown =
        new Rest(stage.url(), stage.token()).get("/api/v1/people/" + person("Holm") + "/picture");
    assertThat(shown.status()).isEqualTo(200);
    assertThat(shown.response().headers().firstValue("Content-Type")).contains("image/png");
    assertThat(
            new Rest(stage.url(), stage.token())
                .get("/api/v1/people/" + person("Vik") + "/picture")
                .status())
        .isEqualTo(404);
  }

  @Test
  public void whoeverBeganAReadingIsToldWhenItIsDoneAndWhenItIsCarriedOut() throws Exception {
    client.done(
        "people",
        "add",
        "name.givenName=Ada",
        "name.familyName=Reader",
        "userType=employee",
        "emails.home=ada@post.example",
        "--release");
    client.settle();
    new Rest(stage.url(), stage.token())
        .json(
            "PUT",
            "/api/v1/operators/" + Stage.OPERATOR,
            "{\"role\": \"administrator\", \"person\": %s}".formatted(person("Reader")));

    var file = file("slow.csv", "Number,Family name,Given name,Berth\n901,Long,Ida,4\n");
    var made = client.json("imports", "add", file);
    client.done("imports", "map", id(made), "--source=slow");
    release(made);

    assertThat(stage.postBox().lettersTo("ada.reader@skerrow.example"))
        .extracting(letter -> letter.subject())
        .containsExactly("slow.csv is read, and waits for its release", "slow.csv is carried out");
    assertThat(stage.postBox().lettersTo("ada.reader@skerrow.example").getFirst().text())
        .contains(stage.url() + "/now/imports/" + id(made));
  }

  @Test
  public void anArchiveThatIsNoBundleIsRefusedWithWhatIsWrong() throws Exception {
    var zip = folder.resolve("two.zip");
    var said =
        client.run(
            "imports",
            "add",
            zipped(
                    zip,
                    file("a.csv", "No,Family name\n1,x\n"),
                    file("b.csv", "No,Given name\n1,x\n"))
                .toString());

    assertThat(said.err()).contains("2 lists that may be of people: a.csv, b.csv");
    assertThat(client.json("imports", "list", "--limit=100").toString()).doesNotContain("two.zip");
  }

  private void aRuleThatGoesByTheTreeMeansOthersOnceAUnitStandsElsewhere() throws Exception {
    stage.directory().addGroup("fleet");
    var members = "Crew no,Group\n1,G1\n3,G1\n";
    release(bundle(PEOPLE.replace("D9", "D2"), UNITS, members));
    var rule =
        Files.writeString(
            folder.resolve("fleet.json"),
            """
            {"application": "directory", "condition": "'Fleet' in units", "groups": ["fleet"],
             "values": {"userName": "login"}}
            """);
    client.done("rules", "put", "fleet", rule.toString(), "--release");
    client.settle();
    assertThat(client.done("units")).containsPattern("Fleet +0").containsPattern("  Deck +1");
    client.done(
        "people",
        "add",
        "name.givenName=Una",
        "name.familyName=Further",
        "department=Office",
        "furtherUnits=Yard; Engine",
        "--release");
    client.settle();
    assertThat(inFleet()).containsExactly("ase.ness", "ida.holm", "per.vik", "una.further");

    release(
        bundle(PEOPLE.replace("D9", "D2"), UNITS.replace("D2,Engine,F", "D2,Engine,"), members));
    var title = "units that stand elsewhere: Engine";
    Eventually.waitUntil("who follows is shown", () -> !shown(title).isMissingNode());
    assertThat(inFleet()).as("nothing happens by itself").hasSize(4);
    assertThat(shown(title).path("people").asInt()).isEqualTo(3);
    client.done("changes", "release", shown(title).path("id").asString(), "--reason=as meant");
    client.settle();
    assertThat(inFleet()).containsExactly("ida.holm");
  }

  private JsonNode shown(String title) {
    for (var set : client.json("changes", "list", "--state=shown").path("items")) {
      if (set.path("title").asString().equals(title)) {
        return set;
      }
    }
    return MissingNode.getInstance();
  }

  private List<String> inFleet() throws Exception {
    return stage.directory().members("fleet").stream()
        .filter(member -> member.startsWith("uid="))
        .map(member -> member.substring(4, member.indexOf(',')))
        .sorted()
        .toList();
  }

  private JsonNode bundle(String people, String units, String memberships) throws Exception {
    return client.json(
        "imports",
        "add",
        file("people.csv", people),
        file("units.csv", units),
        file("groups.csv", GROUPS),
        file("memberships.csv", memberships),
        "--complete");
  }

  private JsonNode add(String... files) {
    var command = new ArrayList<>(List.of("imports", "add"));
    command.addAll(List.of(files));
    return client.json(command.toArray(String[]::new));
  }

  private void release(JsonNode made) throws Exception {
    client.done("changes", "release", set(made).path("id").asString());
    client.settle();
  }

  private JsonNode set(JsonNode made) {
    var now = client.json("imports", "show", id(made));
    return client.json("changes", "show", now.path("changeSet").asString());
  }

  private JsonNode counts(JsonNode made) {
    return client.json("imports", "show", id(made)).path("counts");
  }

  private JsonNode counts(JsonNode made, String file) {
    for (var one : client.json("imports", "linked", id(made)).path("items")) {
      if (one.path("file").asString().equals(file)) {
        return one.path("counts");
      }
    }
    throw new AssertionError("Import %s has no %s".formatted(id(made), file));
  }

  private List<String> codes(JsonNode made, String file, String verdict) {
    var rows =
        file.equals("people")
            ? client.json("imports", "rows", id(made), "--verdict=" + verdict)
            : client.json("imports", "linked", id(made), file, "--verdict=" + verdict);
    return rows.path("items")
        .valueStream()
        .map(row -> row.at("/problems/0/code").asString())
        .toList();
  }

  private String unit(String family) {
    return client
        .json("people", "show", person(family))
        .at("/attributes/department/value")
        .asString();
  }

  private String person(String family) {
    return client
        .json("people", "list", "--filter", "name.familyName eq \"%s\"".formatted(family))
        .at("/items/0/id")
        .asString();
  }

  private List<String> groupsOf(String login) {
    var accounts = stage.mailHouse().accounts();
    return accounts.groupsOf(accounts.byName(login).path("id").asText());
  }

  private static String id(JsonNode made) {
    return made.path("id").asString();
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(folder.resolve(name), text).toString();
  }

  private String picture(String name, int side) throws IOException {
    var file = folder.resolve(name);
    ImageIO.write(new BufferedImage(side, 10, BufferedImage.TYPE_BYTE_GRAY), "png", file.toFile());
    return file.toString();
  }

  private static Path zipped(Path zip, String... files) throws IOException {
    try (var out = new ZipOutputStream(Files.newOutputStream(zip))) {
      for (var file : files) {
        out.putNextEntry(new ZipEntry(Path.of(file).getFileName().toString()));
        Files.copy(Path.of(file), out);
      }
    }
    return zip;
  }
}
