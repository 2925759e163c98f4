package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LayoutTest {
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
          "dd.MM.uuuu");

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
      {"date-invalid", "First", new String[] {"7", "Holm", "Ida", "", "2027-02-01", "", ""}},
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
      {"heading-doubled", List.of("No", "Family", "Given", "Mail", "First", "Last", "Last", "Pay")},
      {
        "column-unknown",
        List.of("No", "Family", "Given", "Mail", "First", "Last", "Pay", "Shoe size")
      },
      {"wrong-separator", List.of("No;Family;Given;Mail;First;Last;Pay")},
    };
  }

  @Test(dataProvider = "wrongHeadings")
  public void refusesAFileWhoseHeadingsAreNotThoseOfTheMapping(String code, List<String> headings) {
    assertThatThrownBy(() -> MAPPING.layout("hr.csv", headings))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal ->
                assertThat(refusal.problems()).extracting(Problem::code).containsExactly(code));
  }

  @Test
  public void aMappingSaysAllThatIsWrongWithItself() {
    var mapping = new Mapping("", new TreeMap<>(Map.of("Shoe", "shoeSize")), new TreeSet<>(), null);

    assertThat(mapping.problems())
        .extracting(Problem::code)
        .containsExactlyInAnyOrder(
            "mapping-without-key",
            "attribute-unknown",
            "attribute-not-mapped",
            "attribute-not-mapped");
  }

  @Test
  public void aHashTellsRowsApartAndMappingsToo() {
    var row = new TreeMap<>(Map.of("title", "Mate", "department", "Deck"));
    var swapped = new TreeMap<>(Map.of("title", "Deck", "department", "Mate"));

    assertThat(RowHash.of(row, 1)).isEqualTo(RowHash.of(new TreeMap<>(row), 1)).hasSize(32);
    assertThat(RowHash.of(row, 1))
        .isNotEqualTo(RowHash.of(row, 2))
        .isNotEqualTo(RowHash.of(swapped, 1));
  }

  private static CheckedRow check(String... cells) {
    return MAPPING.layout("hr.csv", HEADINGS).check(new Row(2, Arrays.asList(cells)));
  }
}
