package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.Scenario;
import ebb.demo.Stage;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Twelve people of the example in its second week. What each has and why was worked out by hand
 * from the two rules: everybody is in the directory, everybody but contractors in the mail house,
 * both from fourteen days ahead.
 */
public class WhyTest {
  private static final String BY_RULE = "Rule %s gives it, because its condition is true of them.";
  private static final String DIRECTORY = BY_RULE.formatted("directory-for-all");
  private static final String MAIL = BY_RULE.formatted("mail-for-employees");
  private static final String GONE =
      "They have departed: the account is suspended, and its closing goes by its gates.";
  private static final String AHEAD =
      "Rule %s gives it, ahead of the first day: it is prepared and cannot be used yet.";
  private static final String CONTRACTOR =
      "They are not entitled by rule mail-for-employees:"
          + " their kind is contractor, and must not be contractor.";

  private Stage stage;
  private Client client;

  @BeforeClass
  void tell() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    Scenario.tellToTheSecondWeek(stage, new PrintStream(OutputStream.nullOutputStream()));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void whyIsSaidOfEverybodyAndHowEbbIsSetUpIsCarriedInFiles() throws Exception {
    saysWhyEachHasWhatTheyHaveAndWhyNot();
    whatCannotBeComputedForSomebodyIsSaidAndTakesNothingFromThem();
    whatIsSetUpIsWrittenToFilesCheckedAndLoaded();
    aConfigurationThatIsAmissIsLoadedInNoPart();
    allThatIsAmissInAConfigurationIsSaidAtOnce();
    whatIsRefusedOfAConfigurationIsSaidWithItsFileAndTheRestIsLoaded();
  }

  private static String[][] people() {
    return new String[][] {
      {"Marit Solvik", "active", DIRECTORY, "active", MAIL},
      {"Tobias Wrenfield", "suspended", GONE, "suspended", GONE},
      {"Ines Calderbank", "suspended", GONE, "suspended", GONE},
      {"Ottilie Quayle-Ness", "active", DIRECTORY, "active", MAIL},
      {"Anna Brightwater", "active", DIRECTORY, "active", MAIL},
      {"Joost Brackenrigg", "active", DIRECTORY, "suspended", CONTRACTOR},
      {"Nadia Ferrow", "active", DIRECTORY, "active", MAIL},
      {"Mirela Haldane-Roe", "active", DIRECTORY, "active", MAIL},
      {"Amadou Pelletier", "active", DIRECTORY, "active", MAIL},
      {"Berit Oakshore", "active", DIRECTORY, "active", MAIL},
      {
        "Elin Morrowby",
        "prepared",
        AHEAD.formatted("directory-for-all"),
        "prepared",
        AHEAD.formatted("mail-for-employees")
      },
      {"Ayşe Tidewell", "active", DIRECTORY, "", CONTRACTOR},
    };
  }

  private void saysWhyEachHasWhatTheyHaveAndWhyNot() {
    for (var row : people()) {
      saysWhy(row[0], row[1], row[2], row[3], row[4]);
    }
  }

  private void saysWhy(String name, String directory, String because, String mail, String orNot) {
    var why = client.json("people", "why", number(name)).path("items");

    assertThat(why.size()).as(name).isEqualTo(2);
    assertThat(why.get(0).path("application").asString()).as(name).isEqualTo("directory");
    assertThat(why.get(0).at("/account/level").asString("")).as(name).isEqualTo(directory);
    assertThat(why.get(0).path("because").asString()).as(name).isEqualTo(because);
    assertThat(why.get(1).path("application").asString()).as(name).isEqualTo("mail-house");
    assertThat(why.get(1).at("/account/level").asString("")).as(name).isEqualTo(mail);
    assertThat(why.get(1).path("because").asString()).as(name).isEqualTo(orNot);
  }

  /** Two people of the example have one name; the one who is meant is head of the dry dock. */
  private String number(String name) {
    var filter =
        name.equals("Ayşe Tidewell")
            ? "employeeNumber eq \"1070\""
            : "displayName eq \"%s\"".formatted(name);
    return client.json("people", "list", "--filter", filter).at("/items/0/id").asString();
  }

  private void whatCannotBeComputedForSomebodyIsSaidAndTakesNothingFromThem() throws Exception {
    var rule =
        Files.writeString(
            stage.home().resolve("files/split.json"),
            client
                .json("rules", "show", "mail-for-employees")
                .toString()
                .replace(
                    "person.userType != 'contractor'",
                    "person.userType != 'contractor'"
                        + " && (!has(person.employeeNumber)"
                        + " || 7 / (int(person.employeeNumber) - 1104) < 9)"));
    var set = client.json("rules", "put", "mail-for-employees", rule.toString());
    assertThat(set.path("counts").size()).as("nobody loses anything: " + set).isZero();
    client.done("changes", "release", set.path("id").asString());
    client.settle();

    var anna = number("Anna Brightwater");
    assertThat(client.done("people", "why", anna))
        .contains("The condition of rule mail-for-employees cannot be computed for them")
        .contains("stays as it is");
    assertThat(stage.mailHouse().accounts().byName("anna.brightwater").path("active").asBoolean())
        .isTrue();
    Eventually.waitUntil(
        "it is listed", () -> client.done("people", "oddities", "unclear").contains("Brightwater"));
  }

  private void whatIsSetUpIsWrittenToFilesCheckedAndLoaded() throws Exception {
    var folder = stage.home().resolve("config");
    client.done("config", "export", folder.toString());
    assertThat(client.done("config", "check", folder.toString()))
        .contains("All is set up as the files say");
    try (var files = Files.walk(folder)) {
      for (var file : files.filter(Files::isRegularFile).toList()) {
        assertThat(Files.readString(file))
            .as("no secret in " + file)
            .doesNotContain(Stage.MAIL_TOKEN, Stage.DIRECTORY_PASSWORD);
      }
    }

    var rule = folder.resolve("rules/mail-for-employees.json");
    Files.writeString(rule, Files.readString(rule).replace("'contractor'", "'seasonal'"));
    Files.writeString(folder.resolve("limits.json"), "{\"missing\": 0.25}");
    assertThat(client.done("config", "check", folder.toString()))
        .contains("mail-for-employees")
        .contains("usual -> 0.25")
        .contains("Nothing was changed");
    assertThat(client.done("config", "load", folder.toString()))
        .contains("limit missing is as its file says")
        .contains("shown; nothing of it is written");
    assertThat(client.json("rules", "show", "mail-for-employees").path("condition").asString())
        .as("as every rule, it waits")
        .contains("contractor");
    assertThat(client.done("limits", "list")).contains("25%");
  }

  private static String[][] badFiles() {
    return new String[][] {
      {"rules/bad.json", "{\"application\": ", "line 1"},
      {"rules/bad.json", "{\"aplication\": \"directory\"}", "says aplication"},
      {"rules/bad.json", "[]", "no JSON object"},
      {"ebb.json", "{\"format\": 7}", "of format 7"},
    };
  }

  private void aConfigurationThatIsAmissIsLoadedInNoPart() throws Exception {
    for (var row : badFiles()) {
      isLoadedInNoPart(row[0], row[1], row[2]);
    }
  }

  private void isLoadedInNoPart(String name, String text, String said) throws Exception {
    var folder = stage.home().resolve("amiss");
    client.done("config", "export", folder.toString());
    Files.writeString(folder.resolve("limits.json"), "{\"missing\": 0.5}");
    Files.writeString(folder.resolve(name), text);

    assertThat(client.run("config", "check", folder.toString()).err()).contains(said);
    assertThat(client.run("config", "load", folder.toString()).err()).contains(said);
    assertThat(client.done("limits", "list")).contains("missing       25%");
    Files.delete(folder.resolve(name));
  }

  private void allThatIsAmissInAConfigurationIsSaidAtOnce() throws Exception {
    var folder = stage.home().resolve("all-amiss");
    client.done("config", "export", folder.toString());
    Files.writeString(folder.resolve("rules/bad.json"), "{\"application\": ");
    Files.writeString(folder.resolve("sources/bad.json"), "{\"rang\": 1}");
    Files.writeString(folder.resolve("limits.json"), "{\"missing\": \"half\", \"creates\": true}");
    for (var misspelt : List.of("rule", "source")) {
      Files.createDirectories(folder.resolve(misspelt));
      Files.writeString(folder.resolve(misspelt + "/one.json"), "{}");
    }

    assertThat(client.run("config", "load", folder.toString()).err())
        .contains("bad.json, line 1")
        .contains("says rang")
        .contains("missing is \"half\"", "creates is true")
        .contains("Nothing is set up by files in " + folder.resolve("rule") + ".")
        .contains("Nothing is set up by files in " + folder.resolve("source") + ".");
    assertThat(client.done("limits", "list")).contains("missing       25%");
  }

  private void whatIsRefusedOfAConfigurationIsSaidWithItsFileAndTheRestIsLoaded() throws Exception {
    var folder = stage.home().resolve("refused");
    client.done("config", "export", folder.toString());
    var attributes = Files.createDirectories(folder.resolve("attributes"));
    Files.writeString(attributes.resolve("berth.json"), "{\"type\": \"colour\"}");
    Files.writeString(attributes.resolve("watch.json"), "{\"type\": \"choice\", \"choices\": []}");
    Files.writeString(folder.resolve("limits.json"), "{\"missing\": 0.5}");
    var rule = folder.resolve("rules/mail-for-employees.json");
    Files.writeString(rule, Files.readString(rule).replace("'contractor'", "'seasonal'"));

    var said = client.run("config", "load", folder.toString());

    assertThat(said.exitCode()).isEqualTo(1);
    assertThat(said.err()).contains("berth.json", "watch.json");
    assertThat(said.out()).contains("limit missing is as its file says", "rules were left out");
    assertThat(client.done("limits", "list")).contains("missing       50%");
  }
}
