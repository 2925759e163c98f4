package ebb.store.applications;

import ebb.core.change.Finding;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Among;
import ebb.store.Batch;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/**
 * People whose accounts were not as they should be when they were last looked at, and the values
 * that differed.
 */
public final class Drifts {
  /**
   * What differs for one person.
   *
   * @param values names of attributes, and of groups and seats after a word of what they are
   */
  public record Drift(Finding kind, SortedSet<String> values) {}

  /** One who drifted. */
  public record Drifted(PersonId person, Instant since) {}

  /**
   * A value that differs.
   *
   * @param times how often it came back after it had been as it should be
   */
  public record Value(Instant since, int times) {}

  /** A value that comes back again and again. */
  public record Quarrel(PersonId person, String attribute, Instant since, int times) {}

  /** At most so many, in the order of their numbers. */
  public Set<PersonId> people(
      StatelessSession session, String application, PersonId after, int limit) {
    return ids(
        session,
        "where id.application = :application and id.personId > :after",
        application,
        after,
        limit);
  }

  /** Those for whom something was done since they were looked at. */
  public Set<PersonId> toLookAt(
      StatelessSession session, String application, PersonId after, int limit) {
    return ids(
        session,
        "where lookAgain = true and id.application = :application and id.personId > :after",
        application,
        after,
        limit);
  }

  private static Set<PersonId> ids(
      StatelessSession session, String where, String application, PersonId after, int limit) {
    return session
        .createSelectionQuery(
            "select id.personId from DriftEntity " + where + " order by id.personId", Long.class)
        .setParameter("application", application)
        .setParameter("after", after.value())
        .setMaxResults(limit)
        .getResultStream()
        .map(PersonId::new)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  public long count(StatelessSession session, String application) {
    return counts(session, application).values().stream().mapToLong(Long::longValue).sum();
  }

  /** How many of each kind; a kind of which there is none is left out. */
  public Map<Finding, Long> counts(StatelessSession session, String application) {
    return session
        .createSelectionQuery(
            "select kind, count(*) from DriftEntity where id.application = :application"
                + " group by kind",
            Object[].class)
        .setParameter("application", application)
        .getResultStream()
        .collect(Collectors.toMap(row -> Finding.valueOf((String) row[0]), row -> (Long) row[1]));
  }

  /** Those of one kind, in the order of their numbers, after the one given. */
  public Page<Drifted> list(
      StatelessSession session,
      String application,
      Finding kind,
      Reach reach,
      Long after,
      int limit) {
    var within = ReachClause.on("id.personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from DriftEntity where id.application = :application and kind = :kind"
                    + " and id.personId > :after"
                    + within.within()
                    + " order by id.application, kind, id.personId",
                DriftEntity.class)
            .setParameter("application", application)
            .setParameter("kind", kind.name())
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit + 1);
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(row -> new Drifted(new PersonId(row.id.personId()), row.since)).toList(),
        rows.size() > limit ? shown.getLast().id.personId().toString() : null);
  }

  /** The values of these people that differ, by their names. */
  public Map<PersonId, Map<String, Value>> values(
      StatelessSession session, String application, Collection<PersonId> people) {
    var values = new HashMap<PersonId, Map<String, Value>>();
    kept(session, application, people)
        .forEach(
            (person, kept) ->
                kept.forEach(
                    (attribute, row) -> {
                      if (!row.isOver()) {
                        values
                            .computeIfAbsent(person, _ -> new TreeMap<>())
                            .put(attribute, new Value(row.since(), row.times()));
                      }
                    }));
    return values;
  }

  /**
   * Values that differ again, the most stubborn first.
   *
   * @param least how often they came back at least
   */
  public List<Quarrel> quarrels(
      StatelessSession session, String application, int least, int limit) {
    return session
        .createNativeQuery(
            "select person_id, attribute, since, times from drifted_value"
                + " where application = :application and ended_at is null and times >= :least"
                + " order by times desc, person_id, attribute",
            Object[].class)
        .setParameter("application", application)
        .setParameter("least", least)
        .setMaxResults(limit)
        .getResultStream()
        .map(
            row ->
                new Quarrel(
                    new PersonId(((Number) row[0]).longValue()),
                    (String) row[1],
                    ((OffsetDateTime) row[2]).toInstant(),
                    ((Number) row[3]).intValue()))
        .toList();
  }

  /** A person is to be looked at again everywhere: what is said of them changed. */
  public void lookAgain(StatelessSession session, PersonId person) {
    session
        .createNativeMutationQuery("update drift set look_again = true where person_id = :person")
        .setParameter("person", person.value())
        .executeUpdate();
  }

  /** These people are to be looked at again: something was done for them. */
  public void lookAgain(StatelessSession session, String application, Collection<PersonId> people) {
    Batch.execute(
        session,
        "update drift set look_again = true where application = ? and person_id = ?",
        people,
        (mark, person) -> {
          mark.setString(1, application);
          mark.setLong(2, person.value());
        });
  }

  /**
   * These people are being looked at: what is done for them from now on has them looked at again.
   * To be called before the look begins; one that ends must not hide what came while it went on.
   */
  public void looking(StatelessSession session, String application, Collection<PersonId> people) {
    session
        .createNativeMutationQuery(
            "update drift set look_again = false where look_again = true"
                + " and application = :application and person_id in (:people)")
        .setParameter("application", application)
        .setParameterList("people", numbers(people))
        .executeUpdate();
  }

  /**
   * Keeps what a look at people came to. Since when somebody drifts stays what it was, and so does
   * that they are to be looked at again.
   *
   * @param drifting those of them who drifted
   */
  public void keep(
      StatelessSession session,
      String application,
      Collection<PersonId> who,
      Map<PersonId, Drift> drifting,
      Instant at) {
    var kept = kept(session, application, who);
    var before = since(session, application, who);
    session.doWork(
        connection -> {
          try (var people = new PeopleRows(connection, application);
              var values = new ValueRows(connection, application)) {
            for (var person : new HashSet<>(who)) {
              var drift = drifting.get(person);
              people.keep(person, drift, before.get(person), at);
              values.keep(
                  person,
                  drift == null ? new TreeSet<>() : drift.values(),
                  kept.getOrDefault(person, Map.of()),
                  at);
            }
          }
        });
  }

  /** Forgets values that have been as they should be for long. */
  public void forget(StatelessSession session, String application, Instant endedBefore) {
    session
        .createNativeMutationQuery(
            "delete from drifted_value where application = :application and ended_at < :before")
        .setParameter("application", application)
        .setParameter("before", endedBefore.atOffset(ZoneOffset.UTC))
        .executeUpdate();
  }

  private static Map<PersonId, Instant> since(
      StatelessSession session, String application, Collection<PersonId> who) {
    var since = new HashMap<PersonId, Instant>();
    Among.each(
        session,
        "select person_id, since, application from drift where person_id in (%s)",
        numbers(who),
        row -> {
          if (row.getString(3).equals(application)) {
            since.put(
                new PersonId(row.getLong(1)), row.getObject(2, OffsetDateTime.class).toInstant());
          }
        });
    return since;
  }

  private record Row(Instant since, boolean isOver, int times) {}

  private static Map<PersonId, Map<String, Row>> kept(
      StatelessSession session, String application, Collection<PersonId> who) {
    var kept = new HashMap<PersonId, Map<String, Row>>();
    Among.each(
        session,
        "select person_id, attribute, since, ended_at, times, application from drifted_value"
            + " where person_id in (%s)",
        numbers(who),
        row -> {
          if (row.getString(6).equals(application)) {
            kept.computeIfAbsent(new PersonId(row.getLong(1)), _ -> new HashMap<>())
                .put(
                    row.getString(2),
                    new Row(
                        row.getObject(3, OffsetDateTime.class).toInstant(),
                        row.getObject(4) != null,
                        row.getInt(5)));
          }
        });
    return kept;
  }

  private static List<Long> numbers(Collection<PersonId> who) {
    return who.stream().map(PersonId::value).distinct().toList();
  }

  private static final class PeopleRows implements AutoCloseable {
    private final PreparedStatement remove;
    private final PreparedStatement put;

    PeopleRows(Connection connection, String application) throws SQLException {
      remove =
          connection.prepareStatement("delete from drift where application = ? and person_id = ?");
      put =
          connection.prepareStatement(
              "merge into drift (application, person_id, since, kind)"
                  + " key (application, person_id) values (?, ?, ?, ?)");
      remove.setString(1, application);
      put.setString(1, application);
    }

    /**
     * @param drift null if there is none
     * @param before since when it has been so; null if it was not
     */
    void keep(PersonId person, Drift drift, Instant before, Instant at) throws SQLException {
      if (drift != null) {
        put.setLong(2, person.value());
        put.setObject(3, (before == null ? at : before).atOffset(ZoneOffset.UTC));
        put.setString(4, drift.kind().name());
        put.addBatch();
      } else if (before != null) {
        remove.setLong(2, person.value());
        remove.addBatch();
      }
    }

    @Override
    public void close() throws SQLException {
      try (remove;
          put) {
        remove.executeBatch();
        put.executeBatch();
      }
    }
  }

  private static final class ValueRows implements AutoCloseable {
    private final PreparedStatement end;
    private final PreparedStatement put;

    ValueRows(Connection connection, String application) throws SQLException {
      end =
          connection.prepareStatement(
              "update drifted_value set ended_at = ?"
                  + " where application = ? and person_id = ? and attribute = ?");
      put =
          connection.prepareStatement(
              "merge into drifted_value (application, person_id, attribute, since, ended_at, times)"
                  + " key (application, person_id, attribute) values (?, ?, ?, ?, null, ?)");
      end.setString(2, application);
      put.setString(1, application);
    }

    void keep(PersonId person, Set<String> differing, Map<String, Row> before, Instant at)
        throws SQLException {
      for (var attribute : differing) {
        var row = before.get(attribute);
        if (row == null || row.isOver()) {
          put.setLong(2, person.value());
          put.setString(3, attribute);
          put.setObject(4, at.atOffset(ZoneOffset.UTC));
          put.setInt(5, row == null ? 0 : row.times() + 1);
          put.addBatch();
        }
      }
      for (var attribute : before.keySet()) {
        if (!differing.contains(attribute) && !before.get(attribute).isOver()) {
          end.setObject(1, at.atOffset(ZoneOffset.UTC));
          end.setLong(3, person.value());
          end.setString(4, attribute);
          end.addBatch();
        }
      }
    }

    @Override
    public void close() throws SQLException {
      try (end;
          put) {
        end.executeBatch();
        put.executeBatch();
      }
    }
  }
}
