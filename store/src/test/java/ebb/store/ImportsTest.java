package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.imports.Format;
import ebb.core.imports.Import;
import ebb.core.imports.Mapping;
import ebb.core.imports.Print;
import ebb.core.imports.RowReport;
import ebb.core.imports.RowReport.Edit;
import ebb.core.imports.Source;
import ebb.core.imports.Stage;
import ebb.core.imports.Terms;
import ebb.core.imports.Verdict;
import ebb.core.person.Attribute;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.store.imports.Imports;
import ebb.store.imports.Imports.Wanted;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.People.Resolved;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import ebb.store.people.Sources;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.hibernate.StatelessSession;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class ImportsTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");

  private final Imports imports = new Imports();
  private final Sources sources = new Sources();
  private final OwnAttributes attributes = new OwnAttributes();
  private final People people = new People();
  private final PeopleLists lists = new PeopleLists();
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
  public void anImportComesBackAsItWasKept() {
    var made =
        new Import(
            7,
            null,
            "hr.csv",
            "abc",
            512,
            NOW,
            Format.CSV.corrected("windows-1252", ";", null),
            new Terms(true, null, new TreeMap<>(Map.of("endDate", "2027-09-30"))),
            Stage.READ,
            List.of(problem("columns-to-map", null)),
            Map.of("new", 3L),
            null,
            null,
            "ada",
            NOW);
    database.writeAll(session -> imports.put(session, made));

    var found = read(session -> imports.get(session, 7));
    assertThat(found).contains(made);
    assertThat(listed(imports::broken))
        .as("it waits for somebody, and was not broken off")
        .isEmpty();
  }

  @Test
  public void problemsAreCountedByKindAndFoundByWhatStoodThere() {
    database.writeAll(
        session ->
            imports.putRows(
                session,
                7,
                List.of(
                    refused(2, "none", "mail-address-invalid"),
                    refused(3, "none", "mail-address-invalid"),
                    refused(4, "nought", "mail-address-invalid"),
                    refused(5, "", "value-missing"))));

    var kinds = read(session -> imports.problemKinds(session, 7, 10));
    assertThat(kinds).extracting(Imports.ProblemKind::rows).containsExactly(3L, 1L);
    assertThat(kinds.getFirst().example().where().line()).isEqualTo(2);
    assertThat(
            listed(
                session -> imports.alike(session, 7, "mail-address-invalid", "Mail", "none", 10)))
        .containsExactly(2L, 3L);
    assertThat(lines(new Wanted(Verdict.REFUSED, "mail-address-invalid", "Mail", null)))
        .containsExactly(2L, 3L, 4L);
    assertThat(lines(new Wanted(null, null, null, "K5"))).containsExactly(5L);
  }

  @Test
  public void aRowPutAgainLosesItsOldProblems() {
    database.writeAll(
        session ->
            imports.putRows(session, 7, List.of(refused(2, "none", "mail-address-invalid"))));
    var mended =
        new RowReport(
            2,
            Verdict.CHANGED,
            "K2",
            new PersonId(9),
            Map.of(),
            Map.of("title", "Mate"),
            Map.of("title", new Edit(null, "Mate")),
            List.of(),
            Map.of(),
            null);

    database.writeAll(session -> imports.putRow(session, 7, mended));

    assertThat(listed(session -> imports.problemKinds(session, 7, 10))).isEmpty();
    var row = read(session -> imports.row(session, 7, 2));
    var verdicts = read(session -> imports.verdicts(session, 7));
    assertThat(row).contains(mended);
    assertThat(verdicts).containsExactly(Map.entry(Verdict.CHANGED, 1L));
  }

  @Test
  public void keysAreKnownByTheirPrintsAndReservedOnesAreNobodyYet() {
    database.writeAll(
        session -> {
          sources.reserve(session, "hr", Map.of("R1", new PersonId(1)));
          sources.keepKey(session, "hr", "K1", new PersonId(2), Print.of("row").text());
          sources.keepKey(session, "hr", "K2", new PersonId(3), null);
          sources.keepKey(session, "other", "K3", new PersonId(4), null);
        });

    var keys = read(session -> sources.keys(session, "hr", 10));

    assertThat(keys.person(Print.of("R1"))).isEqualTo(1);
    assertThat(keys.isReleased(Print.of("R1"))).isFalse();
    assertThat(keys.isSame(Print.of("K1"), Print.of("row"))).isTrue();
    assertThat(keys.isSame(Print.of("K2"), Print.of("row"))).isFalse();
    assertThat(keys.isReleased(Print.of("K2"))).isTrue();
    assertThat(keys.person(Print.of("K3"))).isZero();
    database.writeAll(session -> sources.same(session, "hr", Map.of("K2", Print.of("row"))));
    assertThat(
            read(session -> sources.keys(session, "hr", 10))
                .isSame(Print.of("K2"), Print.of("row")))
        .isTrue();
  }

  @Test
  public void aSourceKeepsEveryVersionOfItsMapping() {
    for (var key : List.of("No", "Number")) {
      database.writeAll(
          session -> {
            long version = sources.get(session, "hr").map(Source::version).orElse(0L);
            var mapping = new Mapping(key, new TreeMap<>(), null, null);
            sources.put(
                session, new Source("hr", 100, Source.Kind.FILE, mapping, version), "ada", NOW);
          });
    }

    assertThat(listed(session -> sources.mappings(session, "hr", 10)))
        .extracting(kept -> kept.version() + " " + kept.mapping().key() + " " + kept.by())
        .containsExactly("2 Number ada", "1 No ada");
  }

  @Test
  public void peopleAreFoundByOwnAttributesThatAreSearchable() {
    var campus =
        new Attribute(
            "campus",
            Attribute.Type.CHOICE,
            false,
            null,
            true,
            ByHand.ALLOWED,
            List.of("North", "South"),
            true);
    database.writeAll(session -> attributes.put(session, campus, 0));
    keep(1, "North");
    keep(2, "South");
    keep(3, null);

    assertThat(found(PeopleFilter.compareOwn("campus", "=", "NORTH"))).containsExactly(1L);
    assertThat(found(PeopleFilter.compareOwn("campus", "like", "%out%"))).containsExactly(2L);
    assertThat(found(PeopleFilter.presentOwn("campus"))).containsExactly(1L, 2L);
    keep(1, null);
    assertThat(found(PeopleFilter.presentOwn("campus"))).containsExactly(2L);
    Catalogue catalogue = read(attributes::catalogue);
    assertThat(catalogue.find("campus")).contains(campus);
    long counted = read(session -> attributes.countValues(session, "campus"));
    assertThat(counted).isEqualTo(1);
  }

  private void keep(long id, String campus) {
    var held = new TreeMap<String, Held>();
    held.put("name.familyName", new Held("Holm", "hr", NOW));
    if (campus != null) {
      held.put("campus", new Held(campus, "hr", NOW));
    }
    database.writeAll(
        session ->
            people.keep(
                session,
                List.of(new Resolved(new Person(new PersonId(id), held), null, null, List.of())),
                Set.of("campus")));
  }

  private List<Long> found(PeopleFilter filter) {
    return read(session -> lists.list(session, filter, PeopleOrder.NAME, null, 10)).items().stream()
        .map(stored -> stored.person().id().value())
        .sorted()
        .toList();
  }

  private List<Long> lines(Wanted wanted) {
    return read(session -> imports.rows(session, 7, wanted, null, 10)).items().stream()
        .map(RowReport::line)
        .toList();
  }

  private <T> List<T> listed(Function<StatelessSession, List<T>> work) {
    return database.read(work);
  }

  private <T> T read(Function<StatelessSession, T> work) {
    return database.read(work);
  }

  private static RowReport refused(long line, String mail, String code) {
    return new RowReport(
        line,
        Verdict.REFUSED,
        "K" + line,
        null,
        Map.of("Mail", mail),
        Map.of(),
        Map.of(),
        List.of(problem(code, line)),
        Map.of(),
        null);
  }

  private static Problem problem(String code, Long line) {
    return new Problem(code, "what", "why", "remedy", new Where("hr.csv", line, "Mail"));
  }
}
