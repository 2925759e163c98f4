package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.SetState;
import ebb.core.imports.Import;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.LinkedRow;
import ebb.core.imports.Stage;
import ebb.core.imports.Terms;
import ebb.core.imports.Verdict;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.store.changes.ChangeSets;
import ebb.store.imports.Imports;
import ebb.store.imports.LinkedRows;
import ebb.store.people.Grants;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class LinkedRowsTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");

  private final LinkedRows rows = new LinkedRows();
  private final Imports imports = new Imports();
  private final ChangeSets sets = new ChangeSets();
  private final Grants grants = new Grants();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void rowsComeBackInTheOrderOfTheirLinesPageByPage() {
    put(1, unit(4, "D", "Deck"), unit(2, "F", "Fleet"), refused(3));

    var first = database.read(s -> rows.page(s, 1, LinkedFile.UNITS, null, null, 2));
    assertThat(first.items()).containsExactly(unit(2, "F", "Fleet"), refused(3));
    var next = Long.valueOf(first.next());
    var second = database.read(s -> rows.page(s, 1, LinkedFile.UNITS, null, next, 2));
    assertThat(second.items()).containsExactly(unit(4, "D", "Deck"));
    assertThat(second.next()).isNull();
    var amiss = database.read(s -> rows.page(s, 1, LinkedFile.UNITS, Verdict.REFUSED, null, 9));
    assertThat(amiss.items()).containsExactly(refused(3));
  }

  @Test
  public void rowsAreCountedByFileAndVerdict() {
    put(1, unit(2, "F", "Fleet"), unit(4, "D", "Deck"), refused(3));

    Map<LinkedFile, Map<Verdict, Long>> counts = database.read(s -> rows.counts(s, 1));
    assertThat(counts)
        .isEqualTo(Map.of(LinkedFile.UNITS, Map.of(Verdict.NEW, 2L, Verdict.REFUSED, 1L)));
  }

  @Test
  public void whatIsKnownOfUnitsIsWhatTheLastReleasedImportSaid() {
    bring(1, "hr", SetState.RELEASED, null, "Deck");
    bring(2, "hr", SetState.SHOWN, null, "Upper deck");
    bring(3, "crew", SetState.RELEASED, null, "Of another source");
    assertThat(nameOfD()).isEqualTo("Deck");

    bring(4, "hr", SetState.RELEASED, null, "Main deck");
    assertThat(nameOfD()).isEqualTo("Main deck");

    bring(4, "hr", SetState.RELEASED, 9L, "Main deck");
    assertThat(nameOfD()).as("taken back").isEqualTo("Deck");
  }

  @Test
  public void refusedUnitsAreNotKnown() {
    bring(1, "hr", SetState.RELEASED, null, "Deck");
    database.writeAll(s -> rows.put(s, 1, List.of(refused(9))));

    assertThat(known()).containsOnlyKeys("D");
  }

  @Test
  public void whatStandsUnderAKeyIsFoundInAllFilesButRefusedRowsAreNot() {
    var waits =
        new LinkedRow(
            LinkedFile.MEMBERSHIPS,
            2,
            Verdict.SET_ASIDE,
            "7",
            new TreeMap<>(Map.of("person", "7", "group", "G")),
            List.of());
    var picture =
        new LinkedRow(
            LinkedFile.PICTURES,
            1,
            Verdict.NEW,
            "7",
            new TreeMap<>(Map.of("picture", "aa")),
            List.of());
    put(1, waits, picture, refusedMembership(3));

    List<LinkedRow> under = database.read(s -> rows.under(s, 1, "7"));
    assertThat(under).containsExactly(waits, picture);

    database.writeAll(s -> rows.putAgain(s, 1, waits.as(Verdict.NEW)));
    List<LinkedRow> after = database.read(s -> rows.under(s, 1, "7"));
    assertThat(after).containsExactly(waits.as(Verdict.NEW), picture);
  }

  @Test
  public void aFileReadAnewLeavesNothingOfTheReadingBefore() {
    put(1, unit(2, "F", "Fleet"));
    database.writeAll(s -> imports.clearRows(s, 1));

    Map<LinkedFile, Map<Verdict, Long>> counts = database.read(s -> rows.counts(s, 1));
    assertThat(counts).isEmpty();
  }

  @Test
  public void peopleInGroupsBySourceAreGoneThroughOnceEachAndEndedOnesNot() {
    database.writeAll(
        s -> {
          grants.give(s, grant(1, 30, "hr"), 1);
          grants.give(s, grant(2, 30, "hr"), 1);
          grants.give(s, grant(3, 10, "hr"), 1);
          grants.give(s, grant(4, 20, "hand"), 1);
          grants.give(s, grant(5, 40, "hr"), 1);
          grants.end(s, 5, 2);
        });

    List<PersonId> first = database.read(s -> grants.peopleOf(s, "hr", null, 1));
    List<PersonId> second = database.read(s -> grants.peopleOf(s, "hr", first.getLast(), 9));
    assertThat(first).containsExactly(new PersonId(10));
    assertThat(second).containsExactly(new PersonId(30));
  }

  private void bring(long id, String source, SetState state, Long takenBackBy, String name) {
    database.writeAll(
        s -> {
          imports.clearRows(s, id);
          imports.put(
              s,
              new Import(
                  id,
                  source,
                  "b.zip",
                  "x",
                  1,
                  null,
                  null,
                  Terms.usual(false),
                  Stage.SHOWN,
                  List.of(),
                  Map.of(),
                  id,
                  null,
                  "ada",
                  NOW));
          var set =
              ChangeSet.begun(id, Cause.IMPORT, "import", null, "ada", NOW)
                  .in(state, null, null)
                  .takenBack(takenBackBy);
          sets.get(s, id)
              .ifPresentOrElse(
                  old -> sets.update(s, withVersion(set, old)), () -> sets.insert(s, set));
          rows.put(s, id, List.of(unit(2, "D", name)));
        });
  }

  private static ChangeSet withVersion(ChangeSet set, ChangeSet old) {
    return new ChangeSet(
        set.id(),
        set.cause(),
        set.title(),
        set.state(),
        set.takesBack(),
        set.takenBackBy(),
        set.stops(),
        set.remarks(),
        set.createdBy(),
        set.createdAt(),
        null,
        null,
        old.version());
  }

  private String nameOfD() {
    return known().get("D").get("name");
  }

  private Map<String, SortedMap<String, String>> known() {
    return database.read(s -> rows.known(s, "hr", LinkedFile.UNITS));
  }

  private void put(long made, LinkedRow... all) {
    database.writeAll(s -> rows.put(s, made, List.of(all)));
  }

  private static Grant grant(long id, long person, String source) {
    return new Grant(
        id,
        new PersonId(person),
        "house",
        "g" + id,
        "r",
        LocalDate.parse("2027-01-01"),
        null,
        source);
  }

  private static LinkedRow unit(long line, String key, String name) {
    return new LinkedRow(
        LinkedFile.UNITS,
        line,
        Verdict.NEW,
        key,
        new TreeMap<>(Map.of("unit", key, "name", name)),
        List.of());
  }

  private static LinkedRow refused(long line) {
    return new LinkedRow(
        LinkedFile.UNITS,
        line,
        Verdict.REFUSED,
        "X",
        new TreeMap<>(Map.of("unit", "X")),
        List.of(
            new Problem("linked-missing", "w", "y", "r", Where.cell("units.csv", line, "Name"))));
  }

  private static LinkedRow refusedMembership(long line) {
    return new LinkedRow(
        LinkedFile.MEMBERSHIPS, line, Verdict.REFUSED, "7", new TreeMap<>(), List.of());
  }
}
