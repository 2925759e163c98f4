package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.person.Attribute;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.rule.Expressions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LayoutTest {
  private static final Expressions EXPRESSIONS = new Expressions();
  private static final List<String> HEADINGS =
      List.of("No", "Family", "Given", "Mail", "First", "Last", "Pay");
  private static final Mapping MAPPING =
      new Mapping(
          "No",
          new TreeMap<>(
              Map.of(
                  "Family", "name.familyName",
                  "Given", "name.givenName",
                  "Mail", "emails.home",
                  "First", "startDate",
                  "Last", "endDate")),
          new TreeSet<>(Set.of("Pay")),
          "d.M.uuuu");

  @Test
  public void readsARowByItsHeadings() {
    var row = check("7", "Holm", " Ida ", "ida@post.example", "01.03.2027", "", "x");

    assertThat(row.problems()).isEmpty();
    assertThat(row.key()).isEqualTo("7");
    assertThat(row.values())
        .containsOnly(
            Map.entry("name.familyName", "Holm"),
            Map.entry("name.givenName", "Ida"),
            Map.entry("emails.home", "ida@post.example"),
            Map.entry("startDate", "2027-03-01"));
  }

  @DataProvider
  Object[][] wrongRows() {
    return new Object[][] {
      {"row-width", null, new String[] {"7", "Holm", "Ida"}},
      {"row-width", null, new String[] {"7", "Holm", "Ida", "", "", "", "x", "y"}},
      {"key-missing", "No", new String[] {" ", "Holm", "Ida", "", "", "", ""}},
      {"value-missing", "Family", new String[] {"7", "", "Ida", "", "", "", ""}},
      {"date-invalid", "First", new String[] {"7", "Holm", "Ida", "", "31.02.2027", "", ""}},
      {"date-invalid", "First", new String[] {"7", "Holm", "Ida", "", "2027-02-30", "", ""}},
      {"cell-error", "Given", new String[] {"7", "Holm", "#REF!", "", "", "", ""}},
      {"key-mangled", "No", new String[] {"1.23E+10", "Holm", "Ida", "", "", "", ""}},
      {"key-mangled", "No", new String[] {"1,23e+10", "Holm", "Ida", "", "", "", ""}},
      {"key-from-spreadsheet", "No", new String[] {"=\"0007\"", "Holm", "Ida", "", "", "", ""}},
      {"key-from-spreadsheet", "No", new String[] {"'0007", "Holm", "Ida", "", "", "", ""}},
      {"key-from-spreadsheet", "No", new String[] {"12,349", "Holm", "Ida", "", "", "", ""}},
      {"key-from-spreadsheet", "No", new String[] {"12350.0", "Holm", "Ida", "", "", "", ""}},
      {"value-from-spreadsheet", "Given", new String[] {"7", "Holm", "=\"Ida\"", "", "", "", ""}},
      {"value-line-break", "Given", new String[] {"7", "Holm", "Ida\nMarie", "", "", "", ""}},
      {
        "mail-address-too-long",
        "Mail",
        new String[] {"7", "Holm", "Ida", "i".repeat(65) + "@post.example", "", "", ""}
      },
      {"key-invalid", "No", new String[] {"7\u200B7", "Holm", "Ida", "", "", "", ""}},
      {"value-deceptive", "Given", new String[] {"7", "Holm", "I\u0007da", "", "", "", ""}},
      {"example-row", "No", new String[] {"EXAMPLE", "Holm", "Ida", "", "", "", ""}},
      {
        "mail-address-invalid", "Mail", new String[] {"7", "Holm", "Ida", "ida at post", "", "", ""}
      },
      {"value-deceptive", "Family", new String[] {"7", "Holm\u202Eexe", "Ida", "", "", "", ""}},
      {
        "end-before-start",
        "Last",
        new String[] {"7", "Holm", "Ida", "", "02.03.2027", "01.03.2027", ""}
      },
    };
  }

  @Test(dataProvider = "wrongRows")
  public void saysWhatIsWrongWhereAndWhatToDo(String code, String column, String[] cells) {
    assertThat(check(cells).problems())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.code()).isEqualTo(code);
              assertThat(problem.where().line()).isEqualTo(2);
              assertThat(problem.where().column()).isEqualTo(column);
              assertThat(problem.remedy()).isNotBlank();
            });
  }

  @Test
  public void saysAllThatIsWrongWithARowNotTheFirst() {
    assertThat(check("", "", "Ida", "no mail", "99.99.9999", "", "").problems()).hasSize(4);
  }

  @DataProvider
  Object[][] wrongHeadings() {
    return new Object[][] {
      {"heading-missing", List.of("No", "Family", "Given", "Mail", "First", "Pay")},
      {"heading-empty", List.of("No", "Family", "Given", "Mail", "First", "", "Last", "", "Pay")},
      {"heading-doubled", List.of("No", "Family", "Given", "Mail", "First", "Last", "Last", "Pay")},
      {
        "column-unknown",
        List.of("No", "Family", "Given", "Mail", "First", "Last", "Pay", "Shoe size")
      },
    };
  }

  @Test(dataProvider = "wrongHeadings")
  public void refusesAFileWhoseHeadingsAreNotThoseOfTheMapping(String code, List<String> headings) {
    assertThatThrownBy(() -> MAPPING.layout("hr.csv", headings, Catalogue.STANDARD, EXPRESSIONS))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal -> assertThat(refusal.problems()).extracting(Problem::code).containsOnly(code));
  }

  @Test
  public void aMappingSaysAllThatIsWrongWithItself() {
    var mapping = new Mapping("", new TreeMap<>(Map.of("Shoe", "shoeSize")), new TreeSet<>(), null);

    assertThat(mapping.problems(Catalogue.STANDARD, EXPRESSIONS))
        .extracting(Problem::code)
        .containsExactlyInAnyOrder(
            "mapping-without-key", "attribute-unknown", "attribute-not-mapped");
  }

  @Test
  public void blanksThatDoNotBreakAndLettersInTwoPartsMakeNoOtherKey() {
    assertThat(check("\u00A07\u00A0K\u202F", "Holm\u00A0", "Ida", "", "", "", "").key())
        .isEqualTo("7 K");
    assertThat(check("A\u030A7", "Holm\u00A0", "Ida", "", "", "", "").key()).isEqualTo("\u00C57");
    assertThat(check("7", "\u00A0Holm\u2007", "Ida", "", "", "", "").values())
        .containsEntry("name.familyName", "Holm");
  }

  @Test
  public void aRowWithACellTooManySaysThatAHeadingMayLack() {
    assertThat(check("7", "Holm", "Ida", "", "", "", "x", "y").problems())
        .singleElement()
        .satisfies(problem -> assertThat(problem.remedy()).contains("give column 8 a heading"));
  }

  @Test
  public void whoHasGoneMayBeSaidInCodes() {
    var columns = new TreeMap<>(MAPPING.columns());
    columns.put("Pay", Mapping.GONE);
    var mapping =
        new Mapping(
            "No",
            columns,
            new TreeSet<>(),
            MAPPING.dateFormat(),
            new TreeMap<>(),
            new TreeMap<>(Map.of(Mapping.GONE, new TreeMap<>(Map.of("AKT", "no", "AUS", "yes")))));
    var layout = mapping.layout("hr.csv", HEADINGS, Catalogue.STANDARD, EXPRESSIONS);

    assertThat(layout.isGone(row("7", "Holm", "Ida", "", "", "", "AUS"))).isTrue();
    assertThat(layout.isGone(row("7", "Holm", "Ida", "", "", "", "AKT"))).isFalse();
    assertThat(layout.isGone(row("7", "Holm", "Ida", "", "", "", ""))).isFalse();
    assertThat(layout.check(row("7", "Holm", "Ida", "", "", "", "NEU")).problems())
        .extracting(Problem::code)
        .containsExactly("code-unknown");
  }

  @Test
  public void peopleMayHaveOneNameOnly() {
    var row = check("7", "Suharsono", "", "", "", "", "");

    assertThat(row.problems()).isEmpty();
    assertThat(row.values()).containsOnly(Map.entry("name.familyName", "Suharsono"));
  }

  @Test
  public void isoDatesAreTakenWhateverTheOthersLookLike() {
    assertThat(check("7", "Holm", "Ida", "", "2027-02-01", "1.3.2027", "").values())
        .containsEntry("startDate", "2027-02-01")
        .containsEntry("endDate", "2027-03-01");
  }

  @Test
  public void whatAnExportPutBeforeAFormulaIsNoPartOfTheValue() {
    assertThat(check("7", "'=Holm", "'Ida", "", "", "", "").values())
        .containsEntry("name.familyName", "=Holm")
        .containsEntry("name.givenName", "'Ida");
  }

  @Test
  public void codesBecomeWhatTheyStandForAndUnknownOnesAreAskedAbout() {
    var mapping = MAPPING.meaning("name.givenName", "I1", "Ida");

    assertThat(check(mapping, "7", "Holm", "I1", "", "", "", "").values())
        .containsEntry("name.givenName", "Ida");
    assertThat(check(mapping, "7", "Holm", "I2", "", "", "", "").problems())
        .extracting(Problem::code)
        .containsExactly("code-unknown");
    assertThat(
            check(mapping.meaning("name.givenName", "I2", "Per"), "7", "Holm", "I2", "", "", "", "")
                .values())
        .containsEntry("name.givenName", "Per");
  }

  @Test
  public void expressionsComputeFromTheRowAndGiveNothingWhereAHeadingIsMissing() {
    var mapping =
        new Mapping(
            "No",
            MAPPING.columns(),
            MAPPING.ignored(),
            MAPPING.dateFormat(),
            new TreeMap<>(
                Map.of(
                    "title", "row['Pay'] == 'x' ? 'Mate' : 'Hand'",
                    "displayName", "row['Family'].upperAscii() + ', ' + row['Given']",
                    "location", "row['No such']")),
            null);

    assertThat(check(mapping, "7", "Holm", "Ida", "", "", "", "x").values())
        .containsEntry("title", "Mate")
        .containsEntry("displayName", "HOLM, Ida")
        .doesNotContainKey("location");
  }

  @Test
  public void ownAttributesAreCheckedByTheirTypes() {
    var catalogue =
        Catalogue.with(
            List.of(
                own("campus", Attribute.Type.CHOICE, null, List.of("North", "South")),
                own("parking", Attribute.Type.YES_NO, "no", List.of()),
                own("grade", Attribute.Type.NUMBER, null, List.of())));
    var mapping =
        new Mapping(
            "No",
            new TreeMap<>(
                Map.of(
                    "Family", "name.familyName",
                    "Given", "name.givenName",
                    "Mail", "campus",
                    "First", "parking",
                    "Last", "grade")),
            new TreeSet<>(Set.of("Pay")),
            null);
    var layout = mapping.layout("hr.csv", HEADINGS, catalogue, EXPRESSIONS);

    assertThat(layout.check(row("7", "Holm", "Ida", "north", "Ja", "3,5", "")).values())
        .containsEntry("campus", "North")
        .containsEntry("parking", "true")
        .containsEntry("grade", "3.5");
    assertThat(layout.check(row("7", "Holm", "Ida", "", "", "", "")).values())
        .containsEntry("parking", "no")
        .doesNotContainKey("campus");
    assertThat(layout.check(row("7", "Holm", "Ida", "West", "perhaps", "many", "")).problems())
        .extracting(Problem::code)
        .containsExactlyInAnyOrder("choice-unknown", "yes-or-no-invalid", "number-invalid");
  }

  @Test
  public void tellsASourceThatChangedFromAnotherFile() {
    assertThat(MAPPING.fit(HEADINGS)).isEqualTo(Mapping.Fit.WHOLE);
    assertThat(MAPPING.fit(List.of("No", "Family", "Given", "Mail", "First", "Boots")))
        .isEqualTo(Mapping.Fit.COLUMNS_CHANGED);
    assertThat(MAPPING.fit(List.of("No", "Harbour", "Berth"))).isEqualTo(Mapping.Fit.ANOTHER_FILE);
    assertThat(MAPPING.fit(List.of("Family", "Given", "Mail", "First", "Last", "Pay")))
        .isEqualTo(Mapping.Fit.ANOTHER_FILE);
  }

  @Test
  public void headingsThatEbbItselfWroteAreNotAskedAbout() {
    var headings = new ArrayList<>(HEADINGS);
    headings.add("Ebb: what is wrong");

    assertThat(MAPPING.fit(headings)).isEqualTo(Mapping.Fit.WHOLE);
  }

  @Test
  public void aPrintTellsRowsApartAndWaysOfReadingThemToo() {
    var layout = MAPPING.layout("hr.csv", HEADINGS, Catalogue.STANDARD, EXPRESSIONS);
    var press = new Print.Press();
    var print = layout.print(row("7", "Holm", "Ida", "", "", "", "x"), press, 1);

    assertThat(layout.print(row("7", "Holm", "Ida", "", "", "", "y"), press, 1))
        .as("a column that is not used makes no odds")
        .isEqualTo(print);
    assertThat(layout.print(row("7", "Holm", "Ida", "", "", "", "x"), press, 2))
        .isNotEqualTo(print);
    assertThat(layout.print(row("7", "HolmI", "da", "", "", "", "x"), press, 1))
        .isNotEqualTo(print);
    assertThat(Print.parse(print.text())).isEqualTo(print);
  }

  @Test
  public void aColumnOfFormerKeysFillsNoAttributeAndMakesNoOddsToAPrint() {
    var mapping =
        new Mapping(
            "No",
            new TreeMap<>(Map.of("Family", "name.familyName", "Was", Mapping.FORMER_KEY)),
            new TreeSet<>(Set.of("Given")),
            null);
    var layout =
        mapping.layout(
            "hr.csv", List.of("No", "Family", "Given", "Was"), Catalogue.STANDARD, EXPRESSIONS);
    var press = new Print.Press();

    assertThat(mapping.attributes()).containsExactly("name.familyName");
    assertThat(layout.formerKey(row("7", "Holm", "Ida", " 3 "))).contains("3");
    assertThat(layout.formerKey(row("7", "Holm", "Ida", " "))).isEmpty();
    assertThat(layout.print(row("7", "Holm", "Ida", "3"), press, 1))
        .isEqualTo(layout.print(row("7", "Holm", "Ida", ""), press, 1));
    assertThat(layout.check(row("7", "Holm", "Ida", "3")).values())
        .containsOnlyKeys("name.familyName");
  }

  @Test
  public void aRowMaySayOnlyThatItsPersonHasGone() {
    var mapping =
        new Mapping(
            "No",
            new TreeMap<>(Map.of("Family", "name.familyName", "Left", Mapping.GONE)),
            new TreeSet<>(),
            null);
    var layout =
        mapping.layout("hr.csv", List.of("No", "Family", "Left"), Catalogue.STANDARD, EXPRESSIONS);
    var press = new Print.Press();

    assertThat(mapping.attributes()).containsExactly("name.familyName");
    assertThat(layout.isGone(row("7", "", " ja "))).isTrue();
    assertThat(layout.isGone(row("7", "Holm", "no"))).isFalse();
    assertThat(layout.isGone(row("7", "Holm", ""))).isFalse();
    assertThat(layout.check(row("7", "Holm", "perhaps")).problems())
        .extracting(Problem::code)
        .contains("yes-or-no-invalid");
    assertThat(layout.print(row("7", "Holm", "no"), press, 1))
        .isEqualTo(layout.print(row("7", "Holm", ""), press, 1));
  }

  private static Attribute own(
      String name, Attribute.Type type, String fallback, List<String> choices) {
    return new Attribute(name, type, false, fallback, true, ByHand.ALLOWED, choices, true);
  }

  private static Row row(String... cells) {
    return new Row(2, Arrays.asList(cells));
  }

  private static CheckedRow check(Mapping mapping, String... cells) {
    return mapping.layout("hr.csv", HEADINGS, Catalogue.STANDARD, EXPRESSIONS).check(row(cells));
  }

  private static CheckedRow check(String... cells) {
    return check(MAPPING, cells);
  }
}
