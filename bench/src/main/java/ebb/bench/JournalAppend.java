package ebb.bench;

import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.journal.Sealing;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.IntStream;
import org.flywaydb.core.Flyway;
import org.h2.jdbcx.JdbcConnectionPool;

/**
 * Entries with personal values, each sealed under its person's key and chained, against a bare
 * batch insert of the bytes that come of it into one table with the same index by person.
 */
final class JournalAppend {
  private static final int AT_ONCE = 500;
  private static final int PEOPLE = 1_000;
  private static final Duration BETWEEN_SEALS = Duration.ofMillis(20);

  static Measured run(Path folder, Trial trial) throws Exception {
    var took =
        trial.medians(
            "journal-append", (number, entries) -> pair(folder.resolve("pair" + number), entries));
    return new Measured("journal-append", took[0], took[1], 2, "s", trial.n());
  }

  /** In databases of their own: neither is to look for places among what others left. */
  private static double[] pair(Path folder, int entries) throws SQLException {
    var pool =
        JdbcConnectionPool.create(
            "jdbc:h2:file:%s;CACHE_SIZE=16384".formatted(folder.resolve("journal")), "ebb", "");
    Flyway.configure().dataSource(pool).load().migrate();
    try (var database = Database.open(pool, Journal.ENTITIES.toArray(Class<?>[]::new));
        var other =
            DriverManager.getConnection("jdbc:h2:file:" + folder.resolve("bare"), "ebb", "")) {
      var journal = new Journal(new SecretBox(SecretBox.random(32)));
      var ours = append(database, journal, new Sealing(Instant.now()), entries);
      return new double[] {ours, insert(pool, other, entries)};
    } finally {
      pool.dispose();
    }
  }

  /** Written by one thread and sealed by another, as in the service. */
  private static double append(Database database, Journal journal, Sealing sealing, int entries) {
    var deeds = IntStream.range(0, entries).mapToObj(JournalAppend::deed).toList();
    var begin = System.nanoTime();
    var sealer = CompletableFuture.runAsync(() -> seal(database, sealing, entries));
    for (int from = 0; from < entries; from += AT_ONCE) {
      var part = deeds.subList(from, from + AT_ONCE);
      // They go onto the disk with what they tell of, which is measured elsewhere; here, at the
      // end.
      database.writeForNow(session -> journal.write(session, Instant.now(), part));
    }
    sealer.join();
    database.writeAll(_ -> {});
    return (System.nanoTime() - begin) / 1e9;
  }

  private static void seal(Database database, Sealing sealing, int entries) {
    var left = entries;
    while (left > 0) {
      var block = database.read(session -> sealing.next(session, AT_ONCE));
      block.ifPresent(
          one -> {
            database.writeForNow(session -> Sealing.keep(session, one));
            sealing.kept(one);
          });
      if (block.isEmpty()) {
        LockSupport.parkNanos(BETWEEN_SEALS.toNanos());
      }
      left -= block.map(Sealing.Block::entries).orElse(0);
    }
  }

  private static Deed deed(int number) {
    return new Deed(
        "ebb",
        "mail-house: update seen (change %d of set 1)".formatted(number),
        new PersonId(1 + number % PEOPLE),
        null,
        Map.of(
            "title", "Mate of boat %d".formatted(number),
            "department", "Deck",
            "emails.work", "person%d@skerrow.example".formatted(number)));
  }

  /** What came of the last entries, as one row each; a seal is as long as a commitment. */
  private static double insert(JdbcConnectionPool pool, Connection other, int entries)
      throws SQLException {
    var rows = new ArrayList<Object[]>();
    try (var connection = pool.getConnection();
        var query =
            connection.prepareStatement(
                "select id, at, actor, act, person_id, reason, commitment, details,"
                    + " id, commitment from journal_entry order by id desc limit ?")) {
      query.setInt(1, entries);
      try (var found = query.executeQuery()) {
        while (found.next()) {
          var row = new Object[10];
          for (int i = 0; i < row.length; i++) {
            row[i] = found.getObject(i + 1);
          }
          rows.add(row);
        }
      }
    }
    try (var statement = other.createStatement()) {
      statement.execute(
          "create table bare (id bigint primary key, at timestamp(6) with time zone, actor varchar,"
              + " act varchar, person_id bigint, reason varchar, commitment varchar,"
              + " details varchar, place bigint, seal varchar)");
      statement.execute("create index bare_person on bare (person_id, id)");
    }
    other.setAutoCommit(false);
    var begin = System.nanoTime();
    try (var insert =
        other.prepareStatement("insert into bare values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")) {
      for (int i = 0; i < rows.size(); i++) {
        for (int column = 0; column < 10; column++) {
          insert.setObject(column + 1, rows.get(i)[column]);
        }
        insert.addBatch();
        if ((i + 1) % AT_ONCE == 0) {
          insert.executeBatch();
          other.commit();
        }
      }
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private JournalAppend() {}
}
