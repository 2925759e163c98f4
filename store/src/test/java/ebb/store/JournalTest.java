package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.journal.Journal.Verified;
import java.time.Instant;
import java.util.Map;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class JournalTest {
  private static final PersonId IDA = new PersonId(1);

  private final Journal journal = new Journal(new SecretBox(new byte[32]));
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
    for (int i = 0; i < 5; i++) {
      var deed = new Deed("ida", "set title " + i, IDA, "asked", Map.of("title", "Mate " + i));
      database.writeAll(session -> journal.write(session, Instant.now(), deed));
    }
    database.write(session -> journal.seal(session, 0, 100));
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void aWholeJournalIsFoundWhole() {
    assertThat(verify().faults()).isEmpty();
    assertThat(verify().place()).isEqualTo(5);
  }

  @Test
  public void sealingInPartsGivesOneChain() {
    for (int i = 0; i < 5; i++) {
      database.writeAll(session -> journal.write(session, Instant.now(), Deed.of("ebb", "more")));
      database.write(session -> journal.seal(session, 0, 2));
    }

    assertThat(verify().faults()).isEmpty();
    assertThat(verify().place()).isEqualTo(10);
    var found1 = database.read(session -> journal.hasOpen(session, 0));
    assertThat(found1).isFalse();
  }

  @DataProvider
  Object[][] tampering() {
    return new Object[][] {
      {"an entry was altered", "update journal_entry set actor = 'eve' where id = 3"},
      {"an entry was taken out", "delete from journal_entry where id = 3"},
      {"a seal was taken out", "delete from journal_seal where place = 3"},
      {"a moment was moved", "update journal_entry set at = dateadd(second, 1, at) where id = 3"},
    };
  }

  @Test(dataProvider = "tampering")
  public void whoeverTampersIsFoundOut(String label, String sql) {
    database.write(session -> session.createNativeMutationQuery(sql).executeUpdate());

    assertThat(verify().faults()).as(label).isNotEmpty();
  }

  @Test
  public void detailsThatWereSwappedAreFoundOut() {
    database.write(
        session ->
            session
                .createNativeMutationQuery(
                    "update journal_entry set details = (select details from journal_entry where id = 1)"
                        + " where id = 2")
                .executeUpdate());

    assertThat(verify().faults()).singleElement().asString().contains("entry 2");
  }

  @Test
  public void forgettingAPersonKeepsTheChainWhole() {
    database.writeAll(session -> journal.forget(session, IDA));

    var entries =
        database.read(session -> journal.list(session, IDA, Reach.EVERYBODY, null, 10)).items();
    assertThat(entries).hasSize(5).allMatch(shown -> shown.details() == null);
    assertThat(verify().faults()).isEmpty();
  }

  @Test
  public void noPersonalValueStandsInTheDatabaseAsText() {
    var bodies =
        database.read(
            session ->
                session
                    .createNativeQuery(
                        "select details from journal_entry where details is not null", String.class)
                    .getResultList());

    assertThat(bodies).hasSize(5).noneMatch(body -> body.contains("Mate"));
    assertThat(
            database
                .read(session -> journal.list(session, IDA, Reach.EVERYBODY, null, 1))
                .items()
                .getFirst()
                .details())
        .contains("Mate 4");
  }

  private Verified verify() {
    var last = Verified.START;
    for (var next = part(last); next.place() > last.place(); next = part(last)) {
      last = next;
    }
    return last;
  }

  private Verified part(Verified from) {
    return database.read(session -> journal.verify(session, from, 2));
  }
}
