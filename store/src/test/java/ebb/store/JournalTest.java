package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.journal.Journal.Shown;
import ebb.store.journal.Journal.Verified;
import ebb.store.journal.Sealing;
import ebb.store.journal.Sealing.Block;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.exception.ConstraintViolationException;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class JournalTest {
  private static final PersonId IDA = new PersonId(1);

  private Journal journal;
  private Database database;
  private Sealing sealing;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
    journal = new Journal(new SecretBox(new byte[32]));
    for (int i = 0; i < 5; i++) {
      var deed = new Deed("ida", "set title " + i, IDA, "asked", Map.of("title", "Mate " + i));
      database.writeAll(session -> journal.write(session, Instant.now(), deed));
    }
    sealing = new Sealing(Instant.EPOCH);
    seal(sealing, 3);
    seal(sealing, 100);
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
      write("more");
      seal(sealing, 2);
    }

    assertThat(verify().faults()).isEmpty();
    assertThat(verify().place()).isEqualTo(10);
    assertThat(next(sealing, 1)).isEmpty();
  }

  @Test
  public void whoSealsAfterAnotherFollowsUponWhatThatOneSealed() {
    var other = new Sealing(Instant.EPOCH);
    write("one");
    seal(other, 100);
    write("two");
    seal(sealing, 100);

    assertThat(verify().faults()).isEmpty();
    assertThat(verify().place()).isEqualTo(7);
  }

  @Test
  public void ofTwoWhoSealTheSameOnlyOneDoes() {
    write("one");
    write("two");
    var other = new Sealing(Instant.EPOCH);
    var theirs = next(other, 1).orElseThrow();
    seal(sealing, 2);

    assertThatThrownBy(() -> database.writeAll(session -> Sealing.keep(session, theirs)))
        .isInstanceOf(ConstraintViolationException.class);

    assertThat(next(other, 1)).isEmpty();
    assertThat(verify().faults()).isEmpty();
  }

  @Test
  public void anEntryThatComesLateIsSealedAndShownSo() {
    write("five");
    write("six");
    database.writeAll(
        session ->
            session
                .createNativeMutationQuery(
                    "insert into journal_entry (id, at, actor, act) values (900, now(), 'ebb', 'far')")
                .executeUpdate());
    seal(sealing, 100);
    database.writeAll(
        session ->
            session
                .createNativeMutationQuery(
                    "insert into journal_entry (id, at, actor, act) values (800, now(), 'ebb', 'late')")
                .executeUpdate());
    assertThat(list()).extracting(Shown::sealed).containsExactly(true, false, true, true);

    seal(new Sealing(Instant.EPOCH), 100);

    assertThat(list()).extracting(Shown::sealed).containsOnly(true);
    assertThat(verify().faults()).isEmpty();
  }

  @Test
  public void anEntryThatWasPutInBesideTheChainIsFoundOut() {
    database.write(
        session ->
            session
                .createNativeMutationQuery(
                    "insert into journal_entry (id, at, actor, act) values (0, now(), 'eve', 'x')")
                .executeUpdate());
    write("more");
    seal(new Sealing(Instant.EPOCH), 1);
    seal(new Sealing(Instant.EPOCH), 1);

    assertThat(verify().faults()).isNotEmpty();
  }

  private List<Shown> list() {
    return database.read(session -> journal.list(session, null, Reach.EVERYBODY, null, 4)).items();
  }

  private void write(String act) {
    database.writeAll(session -> journal.write(session, Instant.now(), Deed.of("ebb", act)));
  }

  private Optional<Block> next(Sealing sealing, int max) {
    return database.read(session -> sealing.next(session, max));
  }

  private void seal(Sealing sealing, int max) {
    next(sealing, max)
        .ifPresent(
            block -> {
              database.writeAll(session -> Sealing.keep(session, block));
              sealing.kept(block);
            });
  }

  @DataProvider
  Object[][] tampering() {
    return new Object[][] {
      {"an entry was altered", "update journal_entry set actor = 'eve' where id = 3"},
      {"an entry was taken out", "delete from journal_entry where id = 3"},
      {"a seal was taken out", "delete from journal_block where place = 1"},
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
  public void aKeyThatAnotherProcessDestroyedIsNotUsedAgain() {
    var other = new Journal(new SecretBox(new byte[32]));
    database.writeAll(session -> other.forget(session, IDA));
    var deed = new Deed("ida", "set title", IDA, "asked", Map.of("title", "Bosun"));
    database.writeAll(session -> journal.write(session, Instant.now(), deed));

    var entries =
        database.read(session -> other.list(session, IDA, Reach.EVERYBODY, null, 10)).items();
    assertThat(entries.getFirst().details()).contains("Bosun");
    assertThat(entries.subList(1, 6)).allMatch(shown -> shown.details() == null);
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
    var before = Verified.START;
    var now = part(before);
    while (now.place() > before.place()) {
      before = now;
      now = part(before);
    }
    return now;
  }

  private Verified part(Verified from) {
    return database.read(session -> journal.verify(session, from));
  }
}
