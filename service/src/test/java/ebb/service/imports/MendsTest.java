package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import ebb.service.changes.Carrying;
import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Rows of which nobody can tell which is right: none is taken until somebody has said so. */
public class MendsTest {
  private static final int MOST_LOOKS = 400;
  private static int sources;

  private String source;

  @BeforeMethod
  void putSource() throws IOException {
    source = "mend-" + ++sources;
    var columns =
        """
        {"rank": 10, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Kind": "userType", "Job": "title", "Boss": "manager"}}
        """;
    var file = Files.writeString(InProcess.stage().home().resolve("mend.json"), columns);
    InProcess.client().done("sources", "put", source, file.toString());
  }

  private String bring(String... rows) throws IOException {
    var text = "No,Family,Given,Kind,Job,Boss\n" + String.join("\n", rows) + "\n";
    var file = Files.writeString(InProcess.stage().home().resolve(source + ".csv"), text);
    return InProcess.client()
        .json("imports", "add", file.toString(), "--source=" + source)
        .path("id")
        .asString();
  }

  /** Of each line its verdict and the codes of what is wrong with it. */
  private static TreeMap<Long, String> rows(String made) {
    var rows = new TreeMap<Long, String>();
    InProcess.client()
        .json("imports", "rows", made)
        .path("items")
        .forEach(
            row ->
                rows.put(
                    row.path("line").asLong(),
                    (row.path("verdict").asString()
                            + " "
                            + String.join(",", row.path("problems").findValuesAsString("code")))
                        .strip()));
    return rows;
  }

  private static JsonNode mend(String made, long line, String... texts) {
    var command = new ArrayList<>(List.of("imports", "mend", made, "" + line));
    command.addAll(List.of(texts));
    return InProcess.client().json(command.toArray(String[]::new));
  }

  @Test
  public void ofTwoRowsWithOneKeyTheOneIsTakenThatIsCheckedAgainAsItStands() throws IOException {
    var made = bring("D1,Auk,Ida,guest,Mate,", "D1,Auk,Ida,guest,Bosun,", "D2,Coot,Per,guest,,");
    assertThat(rows(made))
        .containsEntry(2L, "refused key-doubled")
        .containsEntry(3L, "refused key-doubled")
        .containsEntry(4L, "new");

    mend(made, 3);

    assertThat(rows(made)).containsEntry(2L, "refused key-doubled").containsEntry(3L, "new");
    assertThat(mend(made, 2).path("refused").asInt()).as("one was chosen").isEqualTo(1);
  }

  @Test
  public void whereOneOfTwoGetsANumberOfItsOwnTheOtherGoesOnWithIt() throws IOException {
    var made = bring("E1,Ern,Ida,guest,Mate,", "E1,Erne,Per,guest,Bosun,");

    var mended = mend(made, 3, "No=E2");

    assertThat(mended.path("rows").asInt()).isEqualTo(2);
    assertThat(rows(made)).containsEntry(2L, "new").containsEntry(3L, "new");
  }

  @Test
  public void ofThreeThatAreAlikeNoneGoesOnByItselfWhileTwoAreLeft() throws IOException {
    var made = bring("F1,Fa,Ida,guest,,", "F1,Fe,Per,guest,,", "F1,Fi,Eva,guest,,");

    mend(made, 4, "No=F3");

    assertThat(rows(made))
        .containsEntry(2L, "refused key-doubled")
        .containsEntry(3L, "refused key-doubled")
        .containsEntry(4L, "new");
  }

  @Test
  public void keysThatDifferInCapitalsAloneAreAskedAboutAndMayStand() throws IOException {
    var made = bring("g1,Gadwall,Ida,guest,,", "G1,Garganey,Per,guest,,");
    assertThat(rows(made))
        .containsEntry(2L, "refused key-like-another")
        .containsEntry(3L, "refused key-like-another");

    mend(made, 2);
    mend(made, 3);

    assertThat(rows(made)).containsEntry(2L, "new").containsEntry(3L, "new");
  }

  @Test
  public void whoeverReportsToSomebodyMendedGoesOnWithThem() throws IOException {
    var made = bring("H1,Heron,Ida,guest,,H2", "=\"H2\",Hoopoe,Per,guest,,");
    assertThat(rows(made))
        .containsEntry(2L, "refused manager-unknown")
        .containsEntry(3L, "refused key-from-spreadsheet");

    mend(made, 3, "No=H2");

    assertThat(rows(made)).containsEntry(2L, "new").containsEntry(3L, "new");
  }

  @Test
  public void whoeverWasChosenIsMadeWithAllOthersOfTheSet() throws Exception {
    var made =
        bring(
            "J1,Jaeger,Ida,employee,Mate,J9",
            "J1,Jackdaw,Per,employee,Cook,J9",
            "J2,Jay,Eva,employee,Mate,J9",
            "J9,Junco,Ola,employee,Master,");
    mend(made, 2);
    var set = InProcess.client().json("imports", "show", made).path("changeSet").asString();

    InProcess.release(set);
    // Whoever reports to somebody who is yet to be made is tried again after a second.
    for (int look = 0; look < MOST_LOOKS && !isSeen(set); look++) {
      Carrying.out();
      Thread.sleep(50);
    }

    assertThat(isSeen(set)).as(InProcess.client().done("changes", "show", set)).isTrue();
    assertThat(InProcess.stage().mailHouse().accounts().byName("ida.jaeger")).isNotNull();
    assertThat(InProcess.stage().mailHouse().accounts().byName("per.jackdaw")).isNull();
  }

  private static boolean isSeen(String set) {
    return InProcess.client()
        .json("changes", "show", set)
        .path("counts")
        .valueStream()
        .allMatch(count -> count.path("state").asString().equals("seen"));
  }

  @Test
  public void aFileThatLacksAColumnIsAskedAboutByItsName() throws IOException {
    InProcess.release(
        InProcess.client()
            .json("imports", "show", bring("I1,Ibis,Ida,guest,Mate,"))
            .path("changeSet")
            .asString());
    var file =
        Files.writeString(
            InProcess.stage().home().resolve(source + "-2.csv"),
            "No,Family,Given,Kind,Boss,Boots\nI1,Ibis,Ida,guest,,9\n");

    var read = InProcess.client().json("imports", "add", file.toString(), "--source=" + source);

    assertThat(read.at("/questions/0/what").asString()).endsWith("it lacks Job; new are Boots.");
    assertThat(read.at("/questions/0/why").asString()).contains("taken away from everybody");
  }
}
