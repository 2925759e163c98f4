package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.operator.Reach;
import ebb.core.person.Assertions;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.store.people.AssertionCache;
import ebb.store.people.Logins;
import ebb.store.people.People;
import ebb.store.people.PeopleCursor;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import ebb.store.people.PeopleOrder.By;
import ebb.store.people.StoredPerson;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class PeopleTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");

  private final People people = new People();
  private final PeopleLists lists = new PeopleLists();
  private final Logins logins = new Logins();
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
  public void aPersonComesBackAsTheyWereKept() {
    var person =
        keep(
            1,
            Map.of(
                "name.givenName", "Søren", "name.familyName", "Holm", "startDate", "2027-01-01"));

    assertThat(get(1).person()).isEqualTo(person);
    assertThat(get(1).version()).isEqualTo(1);
  }

  @Test
  public void anUnchangedPersonIsNotWritten() {
    keep(1, Map.of("name.familyName", "Holm"));
    keep(1, Map.of("name.familyName", "Holm"));
    assertThat(get(1).version()).isEqualTo(1);

    keep(1, Map.of("name.familyName", "Lund"));
    assertThat(get(1).version()).isEqualTo(2);
  }

  @Test
  public void whoIsAssertedByNobodyKeepsTheNameInLists() {
    keep(1, Map.of("name.givenName", "Ida", "name.familyName", "Holm"));
    keep(1, Map.of());

    assertThat(get(1).displayName()).isEqualTo("Ida Holm");
    assertThat(get(1).person().attributes()).isEmpty();
  }

  @Test
  public void pagesThroughEveryoneOnceInTheOrderOfNames() {
    for (int i = 1; i <= 25; i++) {
      keep(
          i,
          Map.of(
              "name.familyName",
              "Holm " + (char) ('a' + i % 5),
              "department",
              i % 2 == 0 ? "Deck" : "Office",
              i % 3 == 0 ? "endDate" : "startDate",
              "2027-01-%02d".formatted(1 + i % 4)));
    }
    for (var by : By.values()) {
      for (var order : List.of(new PeopleOrder(by, false), new PeopleOrder(by, true))) {
        assertThat(paged(PeopleFilter.EVERYONE, order)).hasSize(25).doesNotHaveDuplicates();
      }
    }
    var deck = PeopleFilter.compare("department", "=", "Deck");
    assertThat(paged(deck, PeopleOrder.NAME))
        .hasSize(12)
        .isSubsetOf(paged(PeopleFilter.EVERYONE, PeopleOrder.NAME));
  }

  @Test
  public void thoseWithNothingToBeOrderedByComeLastWhicheverWayRound() {
    keep(1, Map.of("name.familyName", "Holm", "endDate", "2027-03-01"));
    keep(2, Map.of("name.familyName", "Lund"));
    keep(3, Map.of("name.familyName", "Ask", "endDate", "2027-01-01"));

    assertThat(paged(PeopleFilter.EVERYONE, new PeopleOrder(By.END_DATE, false)))
        .containsExactly(3L, 1L, 2L);
    assertThat(paged(PeopleFilter.EVERYONE, new PeopleOrder(By.END_DATE, true)))
        .containsExactly(1L, 3L, 2L);
  }

  @Test
  public void countingStopsAtItsLimit() {
    for (long i = 1; i <= 9; i++) {
      keep(i, Map.of("name.familyName", "Holm " + i));
    }
    var holms = PeopleFilter.startsWith("name.familyName", "holm");
    long all = database.read(s -> lists.count(s, holms, 100));
    long some = database.read(s -> lists.count(s, holms, 5));
    assertThat(all).isEqualTo(9);
    assertThat(some).isEqualTo(6);
  }

  @Test
  public void peopleAreFoundByEitherNameByLoginAndByNumberWithinAReach() {
    keep(
        1,
        Map.of(
            "name.givenName", "Søren",
            "name.familyName", "Holm",
            "employeeNumber", "S-0007",
            "department", "Deck"));
    keep(2, Map.of("name.givenName", "Holmfrid", "name.familyName", "Ask", "department", "Office"));

    assertThat(found("holm", Reach.EVERYBODY)).containsExactlyInAnyOrder(1L, 2L);
    assertThat(found("soren-h", Reach.EVERYBODY)).containsExactly(1L);
    assertThat(found("S-0007", Reach.EVERYBODY)).containsExactly(1L);
    assertThat(found("holm", new Reach(Set.of("Deck"), Set.of()))).containsExactly(1L);
  }

  @Test
  public void valuesAreListedOnceInOrder() {
    keep(1, Map.of("name.familyName", "Holm", "department", "Office"));
    keep(2, Map.of("name.familyName", "Lund", "department", "Deck"));
    keep(3, Map.of("name.familyName", "Ask", "department", "Deck"));
    var values = database.read(s -> lists.valuesOf(s, "department", 10));
    assertThat(values).containsExactly("Deck", "Office");
  }

  private List<Long> found(String text, Reach reach) {
    return database.read(s -> lists.find(s, text, text, reach, 10)).stream()
        .map(one -> one.person().id().value())
        .toList();
  }

  private List<Long> paged(PeopleFilter filter, PeopleOrder order) {
    var seen = new ArrayList<Long>();
    PeopleCursor cursor = null;
    do {
      var from = cursor;
      var page = database.read(s -> lists.list(s, filter, order, from, 4));
      page.items().forEach(one -> seen.add(one.person().id().value()));
      cursor = page.next() == null ? null : PeopleCursor.of(page.next(), order).orElseThrow();
    } while (cursor != null);
    return seen;
  }

  @Test
  public void filtersJoinAndNegate() {
    keep(1, Map.of("name.familyName", "Holm", "department", "Deck", "userType", "employee"));
    keep(2, Map.of("name.familyName", "Lund", "department", "Deck", "userType", "contractor"));
    keep(3, Map.of("name.familyName", "Ask", "department", "Office"));
    var deck = PeopleFilter.compare("department", "=", "Deck");
    var employee = PeopleFilter.compare("userType", "=", "employee");

    assertThat(ids(deck.and(employee))).containsExactly(1L);
    assertThat(ids(deck.and(employee.not()))).containsExactly(2L);
    assertThat(ids(employee.or(PeopleFilter.compare("department", "=", "Office"))))
        .containsExactlyInAnyOrder(1L, 3L);
    assertThat(ids(PeopleFilter.present("userType").not())).containsExactly(3L);
  }

  @Test
  public void whatIsSaidOfSomebodyIsReadOnceByWorkThatAsksTwice() {
    var ida = new PersonId(1);
    var per = new PersonId(2);
    say(ida, "Holm", 1);
    say(per, "Vik", 2);
    var cache = new AssertionCache(people);
    assertThat(familyName(cache, ida)).isEqualTo("Holm");

    say(ida, "Gull", 3);
    say(per, "Gull", 4);

    assertThat(familyName(cache, ida)).as("as a moment ago").isEqualTo("Holm");
    assertThat(familyName(cache, per)).as("not asked for before").isEqualTo("Gull");
    assertThat(familyName(new AssertionCache(people), ida)).isEqualTo("Gull");
  }

  private void say(PersonId id, String familyName, long cause) {
    var said =
        Assertions.none(id, "hr")
            .with(new TreeMap<>(Map.of("name.familyName", familyName)), NOW, cause);
    database.writeAll(session -> people.assertNow(session, said, NOW, cause));
  }

  private String familyName(AssertionCache cache, PersonId id) {
    Map<PersonId, List<Assertions>> said = database.read(session -> cache.of(session, List.of(id)));
    return said.get(id).getFirst().values().get("name.familyName").value();
  }

  @Test
  public void aNameGivenUpStaysWithItsPerson() {
    database.writeAll(s -> logins.allocate(s, new PersonId(1), "anna.lindtarn", false, 0, NOW));
    database.writeAll(
        s -> logins.allocate(s, new PersonId(1), "anna.brightwater", true, 0, NOW.plusSeconds(1)));

    var held = database.read(s -> logins.of(s, List.of(new PersonId(1)))).get(new PersonId(1));
    assertThat(held)
        .isEqualTo(new Logins.Held("anna.brightwater", true, 0, List.of("anna.lindtarn")));
    var found2 = database.read(s -> logins.owner(s, "anna.lindtarn"));
    assertThat(found2).contains(new PersonId(1));

    database.writeAll(
        s -> logins.allocate(s, new PersonId(1), "anna.lindtarn", false, 0, NOW.plusSeconds(2)));
    assertThat(
            database
                .read(s -> logins.of(s, List.of(new PersonId(1))))
                .get(new PersonId(1))
                .current())
        .isEqualTo("anna.lindtarn");
  }

  @Test
  public void whatACauseDidIsFoundWithWhatWasThereBefore() {
    var first =
        Assertions.none(new PersonId(1), "hr")
            .with(Map.of("title", "Mate", "location", "Skerrow"), NOW, 1);
    var second = first.with(new TreeMap<>(Map.of("title", "Bosun")), NOW, 2);
    database.writeAll(s -> people.assertNow(s, first, NOW, 1));
    database.writeAll(s -> people.assertNow(s, second, NOW, 2));

    var touched = database.read(s -> people.touchedBy(s, 2));

    assertThat(touched).containsExactly(new People.Touched(second, second, first));
  }

  @Test
  public void aChangedPersonWakesExactlyTheirReaders() {
    var boss = new PersonId(9);
    database.writeAll(
        s ->
            people.keepReads(
                s, Map.of(new PersonId(1), Set.of(boss), new PersonId(2), Set.of(boss))));
    database.writeAll(s -> people.keepReads(s, Map.of(new PersonId(2), Set.of())));

    var found3 = database.read(s -> people.readersOf(s, List.of(boss)));
    assertThat(found3).containsExactly(new PersonId(1));
  }

  private Person keep(long id, Map<String, String> values) {
    var assertions = Assertions.none(new PersonId(id), "hr").with(values, NOW, 1);
    var person = Person.resolve(new PersonId(id), List.of(assertions), _ -> 0);
    database.writeAll(s -> people.keep(s, person, null, null));
    return person;
  }

  private StoredPerson get(long id) {
    return database.read(s -> people.get(s, new PersonId(id))).orElseThrow();
  }

  private List<Long> ids(PeopleFilter filter) {
    return database.read(s -> lists.list(s, filter, PeopleOrder.NAME, null, 100)).items().stream()
        .map(one -> one.person().id().value())
        .toList();
  }
}
