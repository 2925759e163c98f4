package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.identity.Identity.Key;
import ebb.core.imports.Print;
import ebb.core.person.PersonId;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredConflicts;
import ebb.store.people.StoredConflicts.Open;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Keys by which sources know people, and where they do not agree. */
public class SourcesTest {
  private static final PersonId IDA = new PersonId(1);
  private static final PersonId PER = new PersonId(2);

  private final Sources sources = new Sources();
  private final StoredConflicts conflicts = new StoredConflicts();
  private final People people = new People();
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
  public void aKeyIsFoundWhetherItsSourceIsMostOfAllOrAFew() {
    var print = Print.of("row");
    for (int i = 0; i < 60; i++) {
      keep(i < 50 ? "hr" : "pay", "k" + i, new PersonId(100 + i), print.text());
    }

    for (var source : List.of("hr", "pay")) {
      var table = database.read(session -> sources.keys(session, source, 50));
      assertThat(table.size()).isEqualTo(source.equals("hr") ? 50 : 10);
      assertThat(table.isSame(Print.of("k7"), print)).isEqualTo(source.equals("hr"));
      assertThat(table.person(Print.of("k55"))).isEqualTo(source.equals("pay") ? 155 : 0);
    }
  }

  @Test
  public void aPersonWhoGetsANewKeyIsKnownByTheOldOneNoMore() {
    keep("hr", "7", IDA, "as before");
    keep("hr", "8", PER, "as before");

    database.writeAll(session -> sources.rekey(session, "hr", "7", "17", IDA));

    assertThat(keys(IDA)).containsExactly(new Key("hr", "17"));
    assertThat(keys(PER)).containsExactly(new Key("hr", "8"));
  }

  @Test
  public void aKeyThatIsSomebodyElsesByNowIsNotTakenFromThem() {
    keep("hr", "7", PER, "as before");

    database.writeAll(session -> sources.rekey(session, "hr", "7", "17", IDA));

    assertThat(keys(PER)).containsExactly(new Key("hr", "7"));
    assertThat(keys(IDA)).containsExactly(new Key("hr", "17"));
  }

  @Test
  public void everybodyASourceKnowsIsFoundPageByPage() {
    for (int i = 0; i < 25; i++) {
      keep("hr", "k%02d".formatted(i), new PersonId(i + 1), null);
    }
    keep("pay", "k", new PersonId(99), null);
    var found = new ArrayList<PersonId>();
    String after = null;
    do {
      var last = after;
      var page = database.read(session -> sources.peopleOf(session, "hr", last, 10));
      found.addAll(page.items());
      after = page.next();
    } while (after != null);

    assertThat(found).hasSize(25).doesNotHaveDuplicates().doesNotContain(new PersonId(99));
  }

  @Test
  public void aConflictStaysSettledUntilASourceSaysSomethingElse() {
    keepConflicts(IDA, conflict("title", "Mate", "Cook"));
    assertThat(openConflicts()).containsExactly(new Open(IDA, "title"));

    assertThat(settle(IDA, "title")).isTrue();
    keepConflicts(IDA, conflict("title", "Mate", "Cook"));
    assertThat(openConflicts()).isEmpty();

    keepConflicts(IDA, conflict("title", "Mate", "Bosun"));
    assertThat(openConflicts()).containsExactly(new Open(IDA, "title"));

    keepConflicts(IDA, new TreeMap<>());
    assertThat(openConflicts()).isEmpty();
    assertThat(settle(IDA, "title")).as("they agree").isFalse();
  }

  @Test
  public void conflictsComePageByPageAndNoneIsLostAtTheEndOfOne() {
    for (int i = 1; i <= 5; i++) {
      var both = conflict("title", "a", "b");
      both.putAll(conflict("location", "c", "d"));
      keepConflicts(new PersonId(i), both);
    }
    var found = new ArrayList<Open>();
    String next = null;
    do {
      var after = next == null ? null : Open.of(next).orElseThrow();
      var page = database.read(session -> conflicts.open(session, after, 3));
      found.addAll(page.items());
      next = page.next();
    } while (next != null);

    assertThat(found).hasSize(10).doesNotHaveDuplicates();
  }

  @Test
  public void twoWhoAreSaidToBeTwoAreRememberedFromEitherSide() {
    database.writeAll(session -> people.keepApart(session, PER, IDA, "ada"));
    database.writeAll(session -> people.keepApart(session, IDA, PER, "ada"));

    assertThat(database.<Object>read(session -> people.apartFrom(session, IDA)))
        .isEqualTo(Set.of(PER));
    assertThat(database.<Object>read(session -> people.apartFrom(session, PER)))
        .isEqualTo(Set.of(IDA));
  }

  private void keep(String source, String key, PersonId person, String hash) {
    database.writeAll(session -> sources.keepKey(session, source, key, person, hash));
  }

  private List<Key> keys(PersonId person) {
    return database.read(session -> sources.keysOf(session, person));
  }

  private void keepConflicts(PersonId person, SortedMap<String, SortedMap<String, String>> now) {
    database.writeAll(session -> conflicts.keep(session, List.of(person), Map.of(person, now)));
  }

  private boolean settle(PersonId person, String attribute) {
    return database.write(session -> conflicts.settle(session, person, attribute, "ada"));
  }

  private List<Open> openConflicts() {
    return database.read(session -> conflicts.open(session, null, 100)).items();
  }

  private static SortedMap<String, SortedMap<String, String>> conflict(
      String attribute, String hr, String pay) {
    var all = new TreeMap<String, SortedMap<String, String>>();
    all.put(attribute, new TreeMap<>(Map.of("hr", hr, "pay", pay)));
    return all;
  }
}
