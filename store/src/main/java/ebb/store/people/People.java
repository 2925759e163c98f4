package ebb.store.people;

import ebb.core.person.Assertions;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** People, what the sources assert of them, and who is read by whom. */
public final class People {
  public static final List<Class<?>> ENTITIES =
      List.of(
          PersonEntity.class,
          AssertionEntity.class,
          SourceEntity.class,
          SourceKeyEntity.class,
          LoginNameEntity.class,
          GrantEntity.class,
          HoldEntity.class);

  public Optional<StoredPerson> get(StatelessSession session, PersonId id) {
    return Optional.ofNullable(session.get(PersonEntity.class, id.value()))
        .map(PersonMapper::person);
  }

  /** Those of the people that are known. */
  public Map<PersonId, StoredPerson> getAll(StatelessSession session, Collection<PersonId> ids) {
    return session
        .createSelectionQuery("from PersonEntity where id in (:ids)", PersonEntity.class)
        .setParameterList("ids", values(ids))
        .stream()
        .map(PersonMapper::person)
        .collect(Collectors.toMap(stored -> stored.person().id(), stored -> stored));
  }

  /**
   * Makes transactions that concern the same people go one after the other, where each must see
   * what the other did.
   */
  public void lock(StatelessSession session, Collection<PersonId> ids) {
    session
        .createNativeQuery(
            "select id from person where id in (:ids) order by id for update", Long.class)
        .setParameterList("ids", values(ids))
        .getResultList();
  }

  /** Names as lists show them. */
  public Map<PersonId, String> displayNames(StatelessSession session, Collection<PersonId> ids) {
    return session
        .createSelectionQuery(
            "select id, displayName from PersonEntity where id in (:ids)", Object[].class)
        .setParameterList("ids", values(ids))
        .stream()
        .collect(Collectors.toMap(row -> new PersonId(number(row[0])), row -> (String) row[1]));
  }

  public List<PersonId> numbered(StatelessSession session, int count) {
    return Numbers.take(session, "person_seq", count).stream().map(PersonId::new).toList();
  }

  /** People whose name, in any spelling, gives one of these keys. */
  public List<StoredPerson> byMatchKeys(StatelessSession session, Collection<String> keys) {
    return session
        .createSelectionQuery("from PersonEntity where matchKey in (:keys)", PersonEntity.class)
        .setParameterList("keys", keys)
        .stream()
        .map(PersonMapper::person)
        .toList();
  }

  /** What each source asserts now; a person nobody asserts anything of has an empty list. */
  public Map<PersonId, List<Assertions>> assertions(
      StatelessSession session, Collection<PersonId> ids) {
    var all = new HashMap<PersonId, List<Assertions>>();
    ids.forEach(id -> all.put(id, new ArrayList<>()));
    session
        .createSelectionQuery(
            "from AssertionEntity where personId in (:ids) and endedBy is null",
            AssertionEntity.class)
        .setParameterList("ids", values(ids))
        .stream()
        .map(PersonMapper::assertions)
        .filter(assertions -> !assertions.values().isEmpty())
        .forEach(assertions -> all.get(assertions.person()).add(assertions));
    return all;
  }

  /** Replaces what one source asserts of a person. */
  public void assertNow(StatelessSession session, Assertions next, Instant at, long cause) {
    session
        .createMutationQuery(
            "update AssertionEntity set endedBy = :cause"
                + " where personId = :person and source = :source and endedBy is null")
        .setParameter("cause", cause)
        .setParameter("person", next.person().value())
        .setParameter("source", next.source())
        .executeUpdate();
    var row = new AssertionEntity();
    row.id = Numbers.next(session, "assertion_seq");
    row.personId = next.person().value();
    row.source = next.source();
    row.asserted = Json.write(next.values());
    row.cause = cause;
    row.since = at;
    session.insert(row);
  }

  /** What a source asserts now, how a cause left that, and how it found it. */
  public record Touched(Assertions now, Assertions left, Assertions before) {}

  /** For each person and source a cause asserted something of: what stands now, and what stood. */
  public List<Touched> touchedBy(StatelessSession session, long cause) {
    var rows =
        session
            .createSelectionQuery(
                "from AssertionEntity where cause = :cause order by id", AssertionEntity.class)
            .setParameter("cause", cause)
            .list();
    var seen = new HashSet<String>();
    return rows.stream()
        .filter(row -> seen.add(row.personId + " " + row.source))
        .map(
            row ->
                new Touched(
                    current(session, row).orElseGet(() -> none(row)),
                    PersonMapper.assertions(row),
                    before(session, row).orElseGet(() -> none(row))))
        .toList();
  }

  private static Assertions none(AssertionEntity row) {
    return Assertions.none(new PersonId(row.personId), row.source);
  }

  private static Optional<Assertions> current(StatelessSession session, AssertionEntity of) {
    return session
        .createSelectionQuery(
            "from AssertionEntity where personId = :person and source = :source and endedBy is null",
            AssertionEntity.class)
        .setParameter("person", of.personId)
        .setParameter("source", of.source)
        .uniqueResultOptional()
        .map(PersonMapper::assertions);
  }

  private static Optional<Assertions> before(StatelessSession session, AssertionEntity of) {
    return session
        .createSelectionQuery(
            "from AssertionEntity where personId = :person and source = :source and id < :id",
            AssertionEntity.class)
        .setParameter("person", of.personId)
        .setParameter("source", of.source)
        .setParameter("id", of.id)
        .stream()
        .max(Comparator.comparing(row -> row.id))
        .map(PersonMapper::assertions);
  }

  /**
   * Keeps a resolved person. An unchanged person is not written.
   *
   * @param wakesAt the next instant at which something changes by itself; null if none
   */
  public void keep(StatelessSession session, Person person, String login, Instant wakesAt) {
    var attributes = Json.write(person.attributes());
    var row = session.get(PersonEntity.class, person.id().value());
    if (row == null) {
      row = new PersonEntity();
      PersonMapper.fill(row, person, attributes);
      row.login = login;
      row.wakesAt = wakesAt;
      row.version = 1;
      session.insert(row);
    } else if (!row.attributes.equals(attributes)
        || !Objects.equals(row.login, login)
        || !Objects.equals(row.wakesAt, wakesAt)) {
      if (person.attributes().isEmpty()) {
        // Nobody asserts this person any more: lists still show the name they had.
        row.attributes = attributes;
      } else {
        PersonMapper.fill(row, person, attributes);
      }
      row.login = login;
      row.wakesAt = wakesAt;
      row.version++;
      session.update(row);
    }
  }

  /** People for whom something changes by itself at this instant or before, longest due first. */
  public List<PersonId> wakingBy(StatelessSession session, Instant instant, int limit) {
    return ids(
        session
            .createSelectionQuery(
                "select id from PersonEntity where wakesAt <= :instant order by wakesAt, id",
                Long.class)
            .setParameter("instant", instant)
            .setMaxResults(limit)
            .list());
  }

  /** How many people something is due for by itself. */
  public long countWakingBy(StatelessSession session, Instant instant) {
    return session
        .createSelectionQuery(
            "select count(*) from PersonEntity where wakesAt <= :instant", Long.class)
        .setParameter("instant", instant)
        .getSingleResult();
  }

  /** Everyone, in the order of their numbers, after the one given. */
  public List<PersonId> after(StatelessSession session, PersonId last, int limit) {
    return ids(
        session
            .createSelectionQuery(
                "select id from PersonEntity where id > :last order by id", Long.class)
            .setParameter("last", last.value())
            .setMaxResults(limit)
            .list());
  }

  /** Who read these people when they were computed last. */
  public List<PersonId> readersOf(StatelessSession session, Collection<PersonId> read) {
    return ids(
        session
            .createNativeQuery(
                "select distinct reader_id from fact_read where fact_person_id in (:read)",
                Long.class)
            .setParameterList("read", values(read))
            .getResultList());
  }

  /** Remembers whom each of these people's computation read, in place of what it read before. */
  public void keepReads(
      StatelessSession session, Map<PersonId, ? extends Collection<PersonId>> reads) {
    var before = new HashMap<PersonId, Set<PersonId>>();
    session
        .createNativeQuery(
            "select reader_id, fact_person_id from fact_read where reader_id in (:readers)",
            Object[].class)
        .setParameterList("readers", values(reads.keySet()))
        .getResultList()
        .forEach(
            row ->
                before
                    .computeIfAbsent(new PersonId(number(row[0])), _ -> new HashSet<>())
                    .add(new PersonId(number(row[1]))));
    reads.forEach(
        (reader, now) -> {
          var then = before.getOrDefault(reader, Set.of());
          then.stream()
              .filter(fact -> !now.contains(fact))
              .forEach(fact -> forget(session, reader, fact));
          now.stream()
              .filter(fact -> !then.contains(fact))
              .forEach(fact -> remember(session, reader, fact));
        });
  }

  private static void remember(StatelessSession session, PersonId reader, PersonId fact) {
    session
        .createNativeMutationQuery(
            "insert into fact_read (fact_person_id, reader_id) values (:fact, :reader)")
        .setParameter("fact", fact.value())
        .setParameter("reader", reader.value())
        .executeUpdate();
  }

  private static void forget(StatelessSession session, PersonId reader, PersonId fact) {
    session
        .createNativeMutationQuery(
            "delete from fact_read where fact_person_id = :fact and reader_id = :reader")
        .setParameter("fact", fact.value())
        .setParameter("reader", reader.value())
        .executeUpdate();
  }

  /** A page of people by family name. */
  public Page<StoredPerson> list(
      StatelessSession session, PeopleFilter filter, String cursor, int limit) {
    var hql =
        "from PersonEntity p where "
            + filter.condition()
            + (cursor == null ? "" : " and (p.sortName, p.id) > (:sortName, :id)")
            + " order by p.sortName, p.id";
    var query = session.createSelectionQuery(hql, PersonEntity.class).setMaxResults(limit + 1);
    filter.parameters().forEach(query::setParameter);
    if (cursor != null) {
      var at = cursor.lastIndexOf('/');
      query.setParameter("sortName", cursor.substring(0, at));
      query.setParameter("id", Long.parseLong(cursor.substring(at + 1)));
    }
    var rows = query.list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    var more = rows.size() > limit;
    return new Page<>(
        shown.stream().map(PersonMapper::person).toList(),
        more ? shown.getLast().sortName + "/" + shown.getLast().id : null);
  }

  public long count(StatelessSession session, PeopleFilter filter) {
    var query =
        session.createSelectionQuery(
            "select count(*) from PersonEntity p where " + filter.condition(), Long.class);
    filter.parameters().forEach(query::setParameter);
    return query.getSingleResult();
  }

  private static List<Long> values(Collection<PersonId> ids) {
    return ids.stream().map(PersonId::value).toList();
  }

  private static List<PersonId> ids(List<Long> values) {
    return values.stream().map(PersonId::new).toList();
  }

  private static long number(Object column) {
    return ((Number) column).longValue();
  }
}
