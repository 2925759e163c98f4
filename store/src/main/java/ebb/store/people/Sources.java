package ebb.store.people;

import ebb.core.identity.Identity;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Mapping;
import ebb.core.imports.Print;
import ebb.core.imports.Source;
import ebb.core.person.PersonId;
import ebb.store.Json;
import ebb.store.Page;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Sources, and the keys by which each knows people. */
public final class Sources {
  /** In place of a hash: the key was met, and no row of it was ever released. */
  private static final String RESERVED = "reserved";

  public Optional<Source> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(SourceEntity.class, name)).map(Sources::source);
  }

  public List<Source> list(StatelessSession session) {
    return session
        .createSelectionQuery("from SourceEntity order by rank desc, name", SourceEntity.class)
        .stream()
        .map(Sources::source)
        .toList();
  }

  /** Keeps a source under the next version, and that version of its mapping. */
  public void put(StatelessSession session, Source source, String by, Instant at) {
    var row = new SourceEntity();
    row.name = source.name();
    row.rank = source.rank();
    row.kind = source.kind().name();
    row.mapping = Json.write(source.mapping());
    row.version = source.version() + 1;
    session.upsert(row);
    if (row.mapping != null) {
      var kept = new SourceMappingEntity();
      kept.id = new SourceMappingEntity.Key(source.name(), row.version);
      kept.mapping = row.mapping;
      kept.createdBy = by;
      kept.createdAt = at;
      session.insert(kept);
    }
  }

  /** How a mapping was at one of its versions. */
  public record KeptMapping(long version, Mapping mapping, String by, Instant at) {}

  /** The mappings a source had, newest first. */
  public List<KeptMapping> mappings(StatelessSession session, String source, int limit) {
    return session
        .createSelectionQuery(
            "from SourceMappingEntity where id.source = :source order by id.version desc",
            SourceMappingEntity.class)
        .setParameter("source", source)
        .setMaxResults(limit)
        .stream()
        .map(
            row ->
                new KeptMapping(
                    row.id.version(),
                    Json.read(row.mapping, Mapping.class),
                    row.createdBy,
                    row.createdAt))
        .toList();
  }

  /**
   * Everyone a source knows, by the print of its key.
   *
   * @param session in a transaction that only reads: it ends here, and another begins
   * @param expected how many there will be, roughly
   */
  public KeyTable keys(StatelessSession session, String source, int expected) {
    var table = new KeyTable(expected);
    // Entities would take a few times as long, and a list of them all the memory there is.
    session.doWork(
        connection -> {
          try (var statement = connection.createStatement()) {
            // Otherwise all of the answer is written to the disk before its first row is seen. What
            // is read so is kept from being overwritten only where a transaction is to see it
            // again.
            connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
            statement.execute("set lazy_query_execution 1");
            try {
              read(connection, source, isMostOf(statement, expected), table);
            } finally {
              statement.execute("set lazy_query_execution 0");
              connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
            }
          }
        });
    return table;
  }

  private static boolean isMostOf(Statement statement, int keys) throws SQLException {
    try (var count = statement.executeQuery("select count(*) from source_key")) {
      count.next();
      return keys > count.getLong(1) / 2;
    }
  }

  private static void read(Connection connection, String source, boolean isMost, KeyTable table)
      throws SQLException {
    // The table in its own order takes a third of the time a key that its index does.
    try (var query =
        connection.prepareStatement(
            "select row_key, person_id, row_hash from source_key%s where source = ?"
                .formatted(isMost ? " use index ()" : ""))) {
      query.setString(1, source);
      try (var rows = query.executeQuery()) {
        while (rows.next()) {
          know(table, rows.getString(1), rows.getLong(2), rows.getString(3));
        }
      }
    }
  }

  /** Adds to a table what a source knows of these keys. */
  public void know(
      StatelessSession session, String source, Collection<String> keys, KeyTable table) {
    session
        .createSelectionQuery(
            "from SourceKeyEntity where id.source = :source and id.rowKey in (:keys)",
            SourceKeyEntity.class)
        .setParameter("source", source)
        .setParameterList("keys", keys)
        .stream()
        .forEach(row -> know(table, row.id.rowKey(), row.personId, row.rowHash));
  }

  private static void know(KeyTable table, String key, long person, String hash) {
    var isReleased = !RESERVED.equals(hash);
    table.know(
        Print.of(key), person, hash == null || !isReleased ? null : Print.parse(hash), isReleased);
  }

  /** The keys by which a source knows these people. */
  public Map<PersonId, String> keysOf(
      StatelessSession session, String source, Collection<PersonId> people) {
    return people.isEmpty()
        ? Map.of()
        : session
            .createSelectionQuery(
                "from SourceKeyEntity where id.source = :source and personId in (:people)",
                SourceKeyEntity.class)
            .setParameter("source", source)
            .setParameterList("people", people.stream().map(PersonId::value).toList())
            .stream()
            .collect(
                Collectors.toMap(
                    row -> new PersonId(row.personId), row -> row.id.rowKey(), (one, _) -> one));
  }

  /** People a source knows, in the order of its keys, after one. */
  public Page<PersonId> peopleOf(StatelessSession session, String source, String after, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from SourceKeyEntity where id.source = :source and id.rowKey > :after"
                    + " order by id.source, id.rowKey",
                SourceKeyEntity.class)
            .setParameter("source", source)
            .setParameter("after", after == null ? "" : after)
            .setMaxResults(limit)
            .list();
    return new Page<>(
        rows.stream().map(row -> new PersonId(row.personId)).distinct().toList(),
        rows.size() < limit ? null : rows.getLast().id.rowKey());
  }

  /** Keys by which sources know a person, in the order of their sources. */
  public List<Identity.Key> keysOf(StatelessSession session, PersonId person) {
    return session
        .createSelectionQuery(
            "from SourceKeyEntity where personId = :person order by id.source, id.rowKey",
            SourceKeyEntity.class)
        .setParameter("person", person.value())
        .stream()
        .filter(row -> !RESERVED.equals(row.rowHash))
        .map(row -> new Identity.Key(row.id.source(), row.id.rowKey()))
        .toList();
  }

  public void keepKey(
      StatelessSession session, String source, String key, PersonId person, String rowHash) {
    var row = new SourceKeyEntity();
    row.id = new SourceKeyEntity.Key(source, key);
    row.personId = person.value();
    row.rowHash = rowHash;
    session.upsert(row);
  }

  /** Makes a key stand for a person in place of another, which stands for nobody any more. */
  public void rekey(
      StatelessSession session, String source, String from, String to, PersonId person) {
    session
        .createMutationQuery(
            "delete from SourceKeyEntity where id.source = :source and id.rowKey = :key"
                + " and personId = :person")
        .setParameter("source", source)
        .setParameter("key", from)
        .setParameter("person", person.value())
        .executeUpdate();
    var there = session.get(SourceKeyEntity.class, new SourceKeyEntity.Key(source, to));
    if (there == null || there.personId != person.value()) {
      keepKey(session, source, to, person, null);
    }
  }

  /**
   * Gives keys their people before anything is released, so that others may refer to them and a
   * later reading finds the same numbers. None of the keys may be known.
   */
  public void reserve(StatelessSession session, String source, Map<String, PersonId> keys) {
    session.insertMultiple(
        keys.entrySet().stream()
            .map(
                entry -> {
                  var row = new SourceKeyEntity();
                  row.id = new SourceKeyEntity.Key(source, entry.getKey());
                  row.personId = entry.getValue().value();
                  row.rowHash = RESERVED;
                  return row;
                })
            .toList());
  }

  /** Notes that rows say what is known already, so that they need not be looked at next time. */
  public void same(StatelessSession session, String source, Map<String, Print> keys) {
    keys.forEach(
        (key, print) ->
            session
                .createMutationQuery(
                    "update SourceKeyEntity set rowHash = :hash"
                        + " where id.source = :source and id.rowKey = :key")
                .setParameter("hash", print.text())
                .setParameter("source", source)
                .setParameter("key", key)
                .executeUpdate());
  }

  /** Makes the rows of these people count again when the source is next read. */
  public void forgetHashes(StatelessSession session, String source, Collection<PersonId> people) {
    session
        .createMutationQuery(
            "update SourceKeyEntity set rowHash = null"
                + " where id.source = :source and personId in (:people) and rowHash is not null")
        .setParameter("source", source)
        .setParameterList("people", people.stream().map(PersonId::value).toList())
        .executeUpdate();
  }

  private static Source source(SourceEntity row) {
    return new Source(
        row.name,
        row.rank,
        Source.Kind.valueOf(row.kind),
        Json.read(row.mapping, Mapping.class),
        row.version);
  }
}
