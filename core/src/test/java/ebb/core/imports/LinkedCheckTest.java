package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.Catalogue;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LinkedCheckTest {
  @DataProvider
  Object[][] files() {
    return new Object[][] {
      {"units.csv", "Unit,Name,Parent", LinkedFile.UNITS},
      {"x.csv", "id,name,belongs to", LinkedFile.UNITS},
      {"abteilungen.csv", "Einheit,Bezeichnung,Übergeordnet", LinkedFile.UNITS},
      {"units-2027.csv", "Unit,Name,Cost centre", LinkedFile.UNITS},
      {"x.csv", "Group,Application,Name", LinkedFile.GROUPS},
      {"x.csv", "Gruppe,Anwendung", LinkedFile.GROUPS},
      {"x.csv", "Staff no,Group,From,Until", LinkedFile.MEMBERSHIPS},
      {"x.csv", "Personalnummer,Gruppe,von,bis", LinkedFile.MEMBERSHIPS},
      {"people.csv", "Staff no,Family name,Given name,Unit", null},
      {"people.csv", "No,Name,Unit", null},
      {"people.csv", "Staff no,Group,Family name", null},
    };
  }

  @Test(dataProvider = "files")
  public void aLinkedFileIsKnownByItsNameOrByHavingNoOtherColumns(
      String name, String headings, LinkedFile expected) {
    assertThat(LinkedFile.of(name, List.of(headings.split(","))))
        .isEqualTo(Optional.ofNullable(expected));
  }

  @Test
  public void aUnitBelowOneThatIsNotThereIsRefused() {
    var rows = units("1,Fleet,", "2,Deck,1", "3,Lost,9");

    assertThat(codes(rows)).containsExactly("new", "new", "unit-without-parent");
  }

  @Test
  public void unitsInARingAreRefusedAndThoseBelowThemToo() {
    var rows = units("1,Fleet,", "2,A,3", "3,B,4", "4,C,2", "5,Below,2");

    assertThat(codes(rows).subList(0, 4))
        .containsExactly("new", "units-in-a-loop", "units-in-a-loop", "units-in-a-loop");
  }

  @Test
  public void aUnitThatStandsTwiceIsTakenOnce() {
    assertThat(codes(units("1,Fleet,", "1,Other,"))).containsExactly("new", "linked-doubled");
  }

  @Test
  public void aUnitOfAnotherNameIsChangedAndOneOfTheSameIsNot() {
    var check = check(LinkedFile.UNITS, "unit,name,parent");
    var before =
        Map.of(
            "1", new TreeMap<>(Map.of("unit", "1", "name", "Fleet")),
            "2", new TreeMap<>(Map.of("unit", "2", "name", "Deck", "parent", "1")));

    var rows =
        check.units(read(check, "1,Fleet,", "2,Upper deck,1", "3,Galley,1"), Map.copyOf(before));

    assertThat(codes(rows)).containsExactly("unchanged", "changed", "new");
  }

  @Test
  public void aGroupOfAnApplicationThatIsNotConnectedIsRefused() {
    var check = check(LinkedFile.GROUPS, "group,application,name");

    var rows =
        check.groups(
            read(check, "1,mail-house,Editors", "2,nowhere,Readers", ",mail-house,x"),
            Set.of("mail-house"),
            Map.of());

    assertThat(codes(rows)).containsExactly("new", "group-without-application", "linked-missing");
    assertThat(rows.get(1).problems().getFirst().why()).contains("mail-house");
  }

  @DataProvider
  Object[][] memberships() {
    return new Object[][] {
      {"7,crew,,", "new"},
      {"7,crew,1.3.2027,31.3.2027", "new"},
      {"7,crew,1.4.2027,31.3.2027", "membership-ends-first"},
      {"7,crew,31.2.2027,", "date-invalid"},
      {",crew,,", "linked-missing"},
      {"7,,,", "linked-missing"},
      {"7,crew", "row-width"},
      {"7,cr\u202Eew,,", "linked-invalid"},
      {"7," + "x".repeat(201) + ",,", "linked-invalid"},
    };
  }

  @Test(dataProvider = "memberships")
  public void aMembershipIsCheckedByItself(String row, String expected) {
    var check = check(LinkedFile.MEMBERSHIPS, "person,group,from,until");

    assertThat(codes(read(check, row))).containsExactly(expected);
  }

  @Test
  public void aMembershipMayBeOver() {
    var check = check(LinkedFile.MEMBERSHIPS, "person,group,gone");

    var rows = read(check, "7,crew,yes", "7,crew,", "7,crew,maybe");
    assertThat(codes(rows)).containsExactly("new", "new", "yes-or-no-invalid");
    assertThat(rows.getFirst().says("gone")).isEqualTo("true");
  }

  private static List<LinkedRow> units(String... rows) {
    var check = check(LinkedFile.UNITS, "unit,name,parent");
    return check.units(read(check, rows), Map.of());
  }

  private static LinkedCheck check(LinkedFile file, String headings) {
    return new LinkedCheck(
        file,
        file.word() + ".csv",
        List.of(headings.split(",")),
        new ValueCheck(Catalogue.STANDARD, "d.M.uuuu"));
  }

  private static List<LinkedRow> read(LinkedCheck check, String... rows) {
    return IntStream.range(0, rows.length)
        .mapToObj(i -> new Row(i + 2, Arrays.asList(rows[i].split(",", -1))))
        .map(check::read)
        .toList();
  }

  /** The verdict of each row, or what is wrong with it. */
  private static List<String> codes(List<LinkedRow> rows) {
    return rows.stream()
        .map(
            row ->
                row.problems().isEmpty() ? row.verdict().word() : row.problems().getFirst().code())
        .toList();
  }
}
