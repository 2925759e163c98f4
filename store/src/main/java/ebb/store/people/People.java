package ebb.store.people;

import ebb.core.imports.Likeness;
import ebb.core.operator.Reach;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.rule.Unclear;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.ReachClause;
import java.sql.PreparedStatement;
import java.sql.SQLException;
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
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;

/** People, what the sources assert of them, and who is read by whom. */
public final class People {
  public static final List<Class<?>> ENTITIES =
      List.of(
          PersonEntity.class,
          AssertionEntity.class,
          SourceEntity.class,
          SourceMappingEntity.class,
          AttributeEntity.class,
          StandardAttributeEntity.class,
          PersonValueEntity.class,
          PersonClueEntity.class,
          ApartEntity.class,
          ConflictEntity.class,
          SourceKeyEntity.class,
          LoginNameEntity.class,
          LoginSchemeEntity.class,
          GrantEntity.class,
          EmergencyStopEntity.class,
          EndWarningEntity.class,
          SuspensionEntity.class,
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
    Among.each(
        session,
        "select id from person where id in (%s) order by id for update",
        values(ids).stream().sorted().toList(),
        _ -> {});
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

  /** More people than this having a clue in common, it says nothing. */
  private static final int COMMON = 15;

  /** From a first instant on, as the index holds all those first for whom nothing changes. */
  private static final String WAKING = " wakesAt >= :epoch and wakesAt <= :instant";

  /**
   * People by what they are looked up by. A clue that very many have in common is left out.
   *
   * @param clues as of {@link Likeness#clues}
   */
  public Map<Long, List<PersonId>> byClues(StatelessSession session, Collection<Long> clues) {
    var found = new HashMap<Long, List<PersonId>>();
    // One small question for each: together they would be answered for the common ones as well,
    // and those grow with the organisation.
    session.doWork(
        connection -> {
          try (var anybody =
                  connection.prepareStatement("select person_id from person_clue limit 1");
              var query =
                  connection.prepareStatement(
                      "select person_id from person_clue where clue = ? limit " + (COMMON + 1))) {
            if (ids(anybody).isEmpty()) {
              return;
            }
            for (var clue : clues) {
              query.setLong(1, clue);
              var people = ids(query);
              if (!people.isEmpty() && people.size() <= COMMON) {
                found.put(clue, people);
              }
            }
          }
        });
    return found;
  }

  private static List<PersonId> ids(PreparedStatement query) throws SQLException {
    var ids = new ArrayList<PersonId>();
    try (var rows = query.executeQuery()) {
      while (rows.next()) {
        ids.add(new PersonId(rows.getLong(1)));
      }
    }
    return ids;
  }

  /** These people, as they are resolved; who is not known is left out. */
  public List<StoredPerson> all(StatelessSession session, Collection<PersonId> ids) {
    return ids.isEmpty()
        ? List.of()
        : session
            .createSelectionQuery("from PersonEntity where id in (:ids)", PersonEntity.class)
            .setParameterList("ids", values(ids))
            .stream()
            .map(PersonMapper::person)
            .toList();
  }

  /** What each of these people holds of one attribute; who holds nothing of it is left out. */
  public Map<PersonId, String> held(
      StatelessSession session, String attribute, Collection<PersonId> ids) {
    var held = new HashMap<PersonId, String>();
    Among.each(
        session,
        "select id, attributes from person where id in (%s)",
        values(ids),
        row -> {
          var person = new PersonId(row.getLong(1));
          ValueReader.held(row.getString(2), attribute).ifPresent(value -> held.put(person, value));
        });
    return held;
  }

  /** What each source asserts now; a person nobody asserts anything of has an empty list. */
  public Map<PersonId, List<Assertions>> assertions(
      StatelessSession session, Collection<PersonId> ids) {
    var all = new HashMap<PersonId, List<Assertions>>();
    ids.forEach(id -> all.put(id, new ArrayList<>()));
    Among.each(
        session,
        "select person_id, source, asserted from assertion"
            + " where person_id in (%s) and ended_by is null",
        values(all.keySet()),
        row -> {
          var values = ValueReader.asserted(row.getString(3));
          if (!values.isEmpty()) {
            var person = new PersonId(row.getLong(1));
            all.get(person).add(new Assertions(person, row.getString(2), values));
          }
        });
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

  /**
   * In which states a source left what it says of a person, newest first, with the cause of each.
   */
  public List<Map.Entry<Long, Assertions>> history(
      StatelessSession session, PersonId person, String source, int limit) {
    return session
        .createSelectionQuery(
            "from AssertionEntity where personId = :person and source = :source order by id desc",
            AssertionEntity.class)
        .setParameter("person", person.value())
        .setParameter("source", source)
        .setMaxResults(limit)
        .stream()
        .map(row -> Map.entry(row.cause, PersonMapper.assertions(row)))
        .toList();
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
   * A person as resolved.
   *
   * @param wakesAt the next instant at which something changes by itself; null if none
   * @param unclear what could not be computed for them
   */
  public record Resolved(Person person, String login, Instant wakesAt, List<Unclear> unclear) {
    /** Null if there is nothing: most have nothing, and are not to be looked through. */
    private String unclearText() {
      return unclear.isEmpty() ? null : Json.write(unclear);
    }
  }

  /** Keeps a resolved person. An unchanged person is not written. */
  public void keep(StatelessSession session, Person person, String login, Instant wakesAt) {
    keep(session, List.of(new Resolved(person, login, wakesAt, List.of())), Set.of());
  }

  /**
   * Keeps resolved people. Those who are unchanged are not written.
   *
   * @param all nobody twice
   * @param searchable own attributes that filters look through
   */
  public void keep(StatelessSession session, Collection<Resolved> all, Set<String> searchable) {
    var known = rows(session, all.stream().map(one -> one.person().id()).toList());
    var made = new ArrayList<PersonEntity>();
    var edited = new ArrayList<PersonEntity>();
    var written = new ArrayList<Person>();
    for (var one : all) {
      var attributes = Json.write(one.person().attributes());
      var row = known.get(one.person().id().value());
      if (row == null) {
        made.add(filled(new PersonEntity(), one, attributes));
        written.add(one.person());
      } else if (differs(row, one, attributes)) {
        edited.add(filled(row, one, attributes));
        written.add(one.person());
      }
    }
    session.insertMultiple(made);
    session.updateMultiple(edited);
    var ids = edited.stream().map(row -> row.id).toList();
    keepValues(session, written, searchable, ids);
    keepClues(session, written, ids);
  }

  private static Map<Long, PersonEntity> rows(StatelessSession session, List<PersonId> ids) {
    return ids.isEmpty()
        ? Map.of()
        : session
            .createSelectionQuery("from PersonEntity where id in (:ids)", PersonEntity.class)
            .setParameterList("ids", values(ids))
            .stream()
            .collect(Collectors.toMap(row -> row.id, row -> row));
  }

  private static boolean differs(PersonEntity row, Resolved one, String attributes) {
    return !row.attributes.equals(attributes)
        || !Objects.equals(row.login, one.login())
        || isOtherwiseAhead(row, one);
  }

  private static boolean isOtherwiseAhead(PersonEntity row, Resolved one) {
    return !Objects.equals(row.wakesAt, one.wakesAt())
        || !Objects.equals(row.unclear, one.unclearText());
  }

  /**
   * Keeps of people only what follows from rules: when something changes by itself, and what is
   * unclear. Those who are unchanged are not written; nor those who are not known.
   */
  public void keepAhead(StatelessSession session, Collection<Resolved> all) {
    var known = rows(session, all.stream().map(one -> one.person().id()).toList());
    var edited = new ArrayList<PersonEntity>();
    for (var one : all) {
      var row = known.get(one.person().id().value());
      if (row != null && isOtherwiseAhead(row, one)) {
        row.wakesAt = one.wakesAt();
        row.unclear = one.unclearText();
        edited.add(row);
      }
    }
    session.updateMultiple(edited);
  }

  private static PersonEntity filled(PersonEntity row, Resolved one, String attributes) {
    if (row.id != null && one.person().attributes().isEmpty()) {
      // Nobody asserts this person any more: lists still show the name they had.
      row.attributes = attributes;
    } else {
      PersonMapper.fill(row, one.person(), attributes);
    }
    row.login = one.login();
    row.wakesAt = one.wakesAt();
    row.unclear = one.unclearText();
    row.version++;
    return row;
  }

  /**
   * @param known those of whom there may be some already
   */
  private static void keepClues(
      StatelessSession session, List<Person> written, Collection<Long> known) {
    var there = new HashMap<Long, Set<Long>>();
    Among.each(
        session,
        "select person_id, clue from person_clue where person_id in (%s)",
        known,
        row -> there.computeIfAbsent(row.getLong(1), _ -> new HashSet<>()).add(row.getLong(2)));
    var made = new ArrayList<PersonClueEntity>();
    for (var person : written) {
      if (!person.attributes().isEmpty()) {
        var id = person.id().value();
        var clues = Likeness.clues(person);
        var had = there.getOrDefault(id, Set.of());
        dropClues(session, id, had.stream().filter(clue -> !clues.contains(clue)).toList());
        clues.stream()
            .filter(clue -> !had.contains(clue))
            .map(clue -> clue(clue, id))
            .forEach(made::add);
      }
    }
    session.insertMultiple(made);
  }

  private static PersonClueEntity clue(long clue, long person) {
    var row = new PersonClueEntity();
    row.id = new PersonClueEntity.Key(clue, person);
    return row;
  }

  private static void dropClues(StatelessSession session, long person, List<Long> gone) {
    if (!gone.isEmpty()) {
      session
          .createMutationQuery(
              "delete from PersonClueEntity where id.personId = :id and id.clue in (:gone)")
          .setParameter("id", person)
          .setParameterList("gone", gone)
          .executeUpdate();
    }
  }

  /**
   * @param known those of whom there may be some already
   */
  private static void keepValues(
      StatelessSession session,
      List<Person> written,
      Set<String> searchable,
      Collection<Long> known) {
    var names = new TreeSet<>(searchable);
    names.add(Attributes.FURTHER_UNITS);
    var there = new HashMap<Long, Set<String>>();
    Among.each(
        session,
        "select person_id, name from person_value where person_id in (%s)",
        known,
        row -> there.computeIfAbsent(row.getLong(1), _ -> new HashSet<>()).add(row.getString(2)));
    for (var person : written) {
      var had = there.getOrDefault(person.id().value(), Set.of());
      keepValues(session, person, names, had);
    }
  }

  private static void keepValues(
      StatelessSession session, Person person, Set<String> names, Set<String> there) {
    for (var name : names) {
      person
          .get(name)
          .ifPresent(
              value -> {
                var row = new PersonValueEntity();
                row.id = new PersonValueEntity.Key(person.id().value(), name);
                row.folded = PeopleFilter.folded(value);
                session.upsert(row);
              });
    }
    there.stream()
        .filter(name -> !names.contains(name) || person.get(name).isEmpty())
        .forEach(
            name ->
                session
                    .createMutationQuery(
                        "delete from PersonValueEntity where id.personId = :id and id.name = :name")
                    .setParameter("id", person.id().value())
                    .setParameter("name", name)
                    .executeUpdate());
  }

  /** Remembers that two people who are alike are two. */
  public void keepApart(StatelessSession session, PersonId one, PersonId other, String by) {
    var row = new ApartEntity();
    row.id = ApartEntity.Key.of(one.value(), other.value());
    row.saidBy = by;
    session.upsert(row);
  }

  /** Of whom it was said that they are somebody else than this person. */
  public Set<PersonId> apartFrom(StatelessSession session, PersonId person) {
    return session
        .createSelectionQuery(
            "from ApartEntity where id.personId = :person or id.otherId = :person",
            ApartEntity.class)
        .setParameter("person", person.value())
        .stream()
        .map(row -> row.id.personId() == person.value() ? row.id.otherId() : row.id.personId())
        .map(PersonId::new)
        .collect(Collectors.toSet());
  }

  /** People for whom something changes by itself at this instant or before, longest due first. */
  public List<PersonId> wakingBy(StatelessSession session, Instant instant, int limit) {
    return ids(
        session
            .createSelectionQuery(
                "select id from PersonEntity where" + WAKING + " order by wakesAt, id", Long.class)
            .setParameter("epoch", Instant.EPOCH)
            .setParameter("instant", instant)
            .setMaxResults(limit)
            .list());
  }

  /**
   * People for whom something changes by itself up to an instant, soonest first.
   *
   * @param after the last one of the page before; null for the first page
   */
  public List<Waking> waking(
      StatelessSession session, Instant until, Reach reach, Waking after, int limit) {
    var within = ReachClause.on("p.id", reach);
    var query =
        session
            .createSelectionQuery(
                "select new ebb.store.people.People$Waking(p.id, p.wakesAt) from PersonEntity p"
                    + " where p.wakesAt <= :until"
                    + " and (p.wakesAt > :at or p.wakesAt = :at and p.id > :last)"
                    + within.within()
                    + " order by p.wakesAt, p.id",
                Waking.class)
            .setParameter("until", until)
            .setParameter("at", after == null ? Instant.EPOCH : after.at())
            .setParameter("last", after == null ? 0 : after.id())
            .setMaxResults(limit);
    return within.fill(query).list();
  }

  /** Somebody, and the next instant at which something changes for them by itself. */
  public record Waking(long id, Instant at) {}

  /** How many people something is due for by itself. */
  public long countWakingBy(StatelessSession session, Instant instant) {
    return session
        .createSelectionQuery("select count(*) from PersonEntity where" + WAKING, Long.class)
        .setParameter("epoch", Instant.EPOCH)
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

  /** The managers of those of these people who have one. */
  public Map<Long, Long> managersOf(StatelessSession session, Collection<Long> ids) {
    return session
        .createSelectionQuery(
            "select id, managerId from PersonEntity where id in (:ids) and managerId is not null",
            Object[].class)
        .setParameterList("ids", ids)
        .stream()
        .collect(Collectors.toMap(row -> (Long) row[0], row -> (Long) row[1]));
  }

  /** Those above somebody, the nearest first, and nobody twice, whatever loops there are. */
  public Stream<Person> above(StatelessSession session, Person person) {
    var met = new HashSet<PersonId>();
    met.add(person.id());
    return Stream.iterate(
            next(session, person, met),
            Optional::isPresent,
            last -> last.flatMap(one -> next(session, one, met)))
        .flatMap(Optional::stream);
  }

  private Optional<Person> next(StatelessSession session, Person person, Set<PersonId> met) {
    return person
        .manager()
        .filter(met::add)
        .flatMap(id -> get(session, id))
        .map(StoredPerson::person);
  }

  /** Who read these people when they were computed last. */
  public List<PersonId> readersOf(StatelessSession session, Collection<PersonId> read) {
    var readers = new TreeSet<Long>();
    Among.each(
        session,
        "select reader_id from fact_read where fact_person_id in (%s)",
        values(read),
        row -> readers.add(row.getLong(1)));
    return ids(readers);
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

  private static List<Long> values(Collection<PersonId> ids) {
    return ids.stream().map(PersonId::value).toList();
  }

  private static List<PersonId> ids(Collection<Long> values) {
    return values.stream().map(PersonId::new).toList();
  }

  private static long number(Object column) {
    return ((Number) column).longValue();
  }
}
