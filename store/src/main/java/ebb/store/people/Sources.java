package ebb.store.people;

import ebb.core.imports.Mapping;
import ebb.core.imports.Source;
import ebb.core.person.PersonId;
import ebb.store.Json;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Sources, and the keys by which each knows people. */
public final class Sources {
  /** In place of a hash: the key was met, and no row of it was ever released. */
  public static final String RESERVED = "reserved";

  /**
   * @param rowHash of the row as it was last taken in; null if it must be compared; or RESERVED
   */
  public record Known(PersonId person, String rowHash) {}

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

  /** Keeps a source under the next version. */
  public void put(StatelessSession session, Source source) {
    var row = new SourceEntity();
    row.name = source.name();
    row.rank = source.rank();
    row.kind = source.kind().name();
    row.mapping = Json.write(source.mapping());
    row.version = source.version() + 1;
    session.upsert(row);
  }

  /** Everyone a source knows, by its key. */
  public Map<String, Known> keys(StatelessSession session, String source) {
    return session
        .createSelectionQuery(
            "from SourceKeyEntity where id.source = :source", SourceKeyEntity.class)
        .setParameter("source", source)
        .stream()
        .collect(
            Collectors.toMap(
                row -> row.id.rowKey(), row -> new Known(new PersonId(row.personId), row.rowHash)));
  }

  public void keepKey(
      StatelessSession session, String source, String key, PersonId person, String rowHash) {
    var row = new SourceKeyEntity();
    row.id = new SourceKeyEntity.Key(source, key);
    row.personId = person.value();
    row.rowHash = rowHash;
    session.upsert(row);
  }

  /**
   * Gives a key its person before anything is released, so that others may refer to them and a
   * later reading finds the same number.
   */
  public void reserve(StatelessSession session, String source, String key, PersonId person) {
    keepKey(session, source, key, person, RESERVED);
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
