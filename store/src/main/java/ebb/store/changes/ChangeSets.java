package ebb.store.changes;

import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Batch;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Change sets and the inputs they hold until release. */
public final class ChangeSets {
  public static final List<Class<?>> ENTITIES =
      List.of(ChangeSetEntity.class, InputEntity.class, ChangeEntity.class, NeedEntity.class);

  /** People are close where every so many numbers are one of them. */
  private static final long CLOSE = 4;

  private static final String INSERT_INPUT =
      "insert into input (id, change_set_id, person_id, kind, body, applied)"
          + " values (?, ?, ?, ?, ?, ?)";

  public long number(StatelessSession session) {
    return Numbers.next(session, "change_set_seq");
  }

  public void insert(StatelessSession session, ChangeSet set) {
    session.insert(ChangeMapper.row(set));
  }

  public Optional<ChangeSet> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(ChangeSetEntity.class, id)).map(ChangeMapper::set);
  }

  /**
   * Writes a set if it is still at its version, and raises that.
   *
   * @return false if somebody else wrote it meanwhile
   */
  public boolean update(StatelessSession session, ChangeSet set) {
    var raised =
        session
            .createMutationQuery(
                "update ChangeSetEntity set version = version + 1 where id = :id and version = :version")
            .setParameter("id", set.id())
            .setParameter("version", set.version())
            .executeUpdate();
    if (raised == 0) {
      return false;
    }
    var row = ChangeMapper.row(set);
    row.version = set.version() + 1;
    session.update(row);
    return true;
  }

  /**
   * Newest first.
   *
   * @param state null for all
   * @param reach sets are left out that concern nobody of it and are not by the operator
   */
  public Page<ChangeSet> list(
      StatelessSession session, SetState state, Reach reach, String by, Long before, int limit) {
    var within = ReachClause.on("c.personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from ChangeSetEntity s where s.id < :before"
                    + (state == null ? "" : " and s.state = :state")
                    + (reach.isEverybody()
                        ? ""
                        : " and (s.createdBy = :by or exists (select 1 from ChangeEntity c"
                            + " where c.changeSetId = s.id"
                            + within.within()
                            + "))")
                    + " order by s.id desc",
                ChangeSetEntity.class)
            .setParameter("before", before == null ? Long.MAX_VALUE : before)
            .setMaxResults(limit + 1);
    if (state != null) {
      query.setParameter("state", state.name());
    }
    if (!reach.isEverybody()) {
      query.setParameter("by", by);
    }
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(ChangeMapper::set).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /**
   * How many people a set concerns who are not of a reach. Somebody new, of whom nothing is taken
   * in yet, counts unless the set is the operator's own: then the new person was looked at when the
   * set was made.
   */
  public long countBeyond(StatelessSession session, ChangeSet set, Reach reach, String by) {
    return countBeyond(session, "ChangeEntity", set, reach, by)
        + countBeyond(session, "InputEntity", set, reach, by);
  }

  private static long countBeyond(
      StatelessSession session, String rows, ChangeSet set, Reach reach, String by) {
    var beyond = ReachClause.beyond("x.personId", reach);
    return beyond
        .fill(
            session
                .createSelectionQuery(
                    "select count(distinct x.personId) from "
                        + rows
                        + " x where x.changeSetId = :set"
                        + (set.createdBy().equals(by)
                            ? " and x.personId in (select p.id from PersonEntity p)"
                            : "")
                        + beyond.within(),
                    Long.class)
                .setParameter("set", set.id()))
        .getSingleResult();
  }

  /** A set that shows, or is releasing, what taking another back does; empty if there is none. */
  public Optional<Long> takingBack(StatelessSession session, long id) {
    return session
        .createSelectionQuery(
            "select id from ChangeSetEntity where takesBack = :id"
                + " and state in ('DRAFT', 'SHOWN', 'RELEASING') order by id",
            Long.class)
        .setParameter("id", id)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** When a set was last released; empty if none ever was. */
  public Optional<Instant> lastReleased(StatelessSession session) {
    return session
        .createSelectionQuery("select max(releasedAt) from ChangeSetEntity", Instant.class)
        .uniqueResultOptional();
  }

  /** The shown sets with drift of an application, newest first, at most so many. */
  public List<Long> shownDrift(StatelessSession session, String application, int limit) {
    return session
        .createSelectionQuery(
            "select s.id from ChangeSetEntity s where s.state = 'SHOWN' and s.cause in ('SYNC', 'CORRECTION')"
                + " and exists (select 1 from ChangeEntity c where c.changeSetId = s.id"
                + " and c.state = 'PROPOSED' and c.application = :application)"
                + " order by s.id desc",
            Long.class)
        .setParameter("application", application)
        .setMaxResults(limit)
        .list();
  }

  /** Sets with changes in any of these states, newest first. */
  public List<ChangeSet> withChanges(
      StatelessSession session, Collection<ChangeState> states, int limit) {
    return session
        .createSelectionQuery(
            "from ChangeSetEntity where id in (:ids) order by id desc", ChangeSetEntity.class)
        .setParameterList("ids", InState.sets(session, states, limit))
        .stream()
        .map(ChangeMapper::set)
        .toList();
  }

  /** Sets whose release began and did not end: a crash came between. */
  public List<Long> releasing(StatelessSession session) {
    return session
        .createSelectionQuery(
            "select id from ChangeSetEntity where state = 'RELEASING' order by id", Long.class)
        .list();
  }

  /**
   * How many sets are shown and wait for a release.
   *
   * @param stopped whether those the guard stopped are counted, or the others
   */
  public long countShown(StatelessSession session, boolean stopped) {
    return session
        .createSelectionQuery(
            "select count(*) from ChangeSetEntity where state = 'SHOWN' and stops "
                + (stopped ? "<>" : "=")
                + " '[]'",
            Long.class)
        .getSingleResult();
  }

  public void addInputs(StatelessSession session, long set, Collection<? extends Input> inputs) {
    var numbers = Numbers.take(session, "input_seq", inputs.size());
    Batch.execute(
        session,
        INSERT_INPUT,
        inputs,
        (insert, input) -> bind(insert, ChangeMapper.row(numbers.pop(), set, input)));
  }

  private static void bind(PreparedStatement insert, InputEntity row) throws SQLException {
    insert.setLong(1, row.id);
    insert.setLong(2, row.changeSetId);
    insert.setLong(3, row.personId);
    insert.setString(4, row.kind);
    insert.setString(5, row.body);
    insert.setBoolean(6, row.applied);
  }

  /** The next people with inputs not taken in yet, in the order of their numbers. */
  public List<PersonId> nextPeople(StatelessSession session, long set, PersonId after, int limit) {
    return session
        .createSelectionQuery(
            "select personId from InputEntity"
                + " where changeSetId = :set and applied = false and personId > :after"
                + " order by changeSetId, applied, personId, id",
            Long.class)
        .setParameter("set", set)
        .setParameter("after", after == null ? 0L : after.value())
        .setMaxResults(limit)
        .stream()
        .distinct()
        .map(PersonId::new)
        .toList();
  }

  /** All inputs of a set for these people that were not taken in yet. */
  public List<Input> inputs(StatelessSession session, long set, Collection<PersonId> people) {
    var wanted =
        people.stream().map(PersonId::value).collect(Collectors.toCollection(TreeSet::new));
    // People come in ranges; where they are close, the range is read and the list is ours to use.
    return !wanted.isEmpty() && wanted.last() - wanted.first() < CLOSE * wanted.size()
        ? within(session, set, wanted)
        : session.doReturningWork(connection -> oneByOne(connection, set, wanted));
  }

  private static List<Input> within(StatelessSession session, long set, SortedSet<Long> wanted) {
    return session
        .createSelectionQuery(
            "from InputEntity where changeSetId = :set and applied = false"
                + " and personId >= :least and personId <= :most"
                + " order by changeSetId, applied, personId, id",
            InputEntity.class)
        .setParameter("set", set)
        .setParameter("least", wanted.first())
        .setParameter("most", wanted.last())
        .stream()
        .filter(row -> wanted.contains(row.personId))
        .map(ChangeMapper::input)
        .toList();
  }

  /** The database would go through the whole set for a list, and through the list for each row. */
  private static List<Input> oneByOne(Connection connection, long set, SortedSet<Long> wanted)
      throws SQLException {
    var inputs = new ArrayList<Input>();
    try (var query =
        connection.prepareStatement(
            "select kind, body from input where change_set_id = ? and applied = false"
                + " and person_id = ? order by change_set_id, applied, person_id, id")) {
      query.setLong(1, set);
      for (var person : wanted) {
        query.setLong(2, person);
        try (var rows = query.executeQuery()) {
          while (rows.next()) {
            inputs.add(ChangeMapper.input(rows.getString(1), rows.getString(2)));
          }
        }
      }
    }
    return inputs;
  }

  /** Changes that a set brought about in what keys and accounts are whose. */
  public List<Input> changesOfIdentity(StatelessSession session, long set) {
    return session
        .createSelectionQuery(
            "from InputEntity where changeSetId = :set and applied = true and kind in (:kinds)"
                + " order by changeSetId, applied, personId, id",
            InputEntity.class)
        .setParameter("set", set)
        .setParameterList("kinds", ChangeMapper.OF_IDENTITY)
        .stream()
        .map(ChangeMapper::input)
        .toList();
  }

  /**
   * Under which key each of these sets took in what a source says of a person, in the order in
   * which it did; a set that did not is left out.
   */
  public Map<Long, List<String>> keysSaid(
      StatelessSession session, PersonId person, String source, Collection<Long> sets) {
    var keys = new HashMap<Long, List<String>>();
    session
        .createSelectionQuery(
            "from InputEntity where changeSetId in (:sets) and applied = true"
                + " and personId = :person and kind = :kind order by id",
            InputEntity.class)
        .setParameterList("sets", sets)
        .setParameter("person", person.value())
        .setParameter("kind", ChangeMapper.ASSERT)
        .stream()
        .forEach(
            row -> {
              if (ChangeMapper.input(row) instanceof Input.Assert(_, var of, var key, _, _, _)
                  && of.equals(source)) {
                keys.computeIfAbsent(row.changeSetId, _ -> new ArrayList<>()).add(key);
              }
            });
    return keys;
  }

  /** Takes a person's inputs out of a set that is not released yet. */
  public void dropInputs(StatelessSession session, long set, PersonId person) {
    session
        .createMutationQuery(
            "delete from InputEntity where changeSetId = :set and personId = :person and applied = false")
        .setParameter("set", set)
        .setParameter("person", person.value())
        .executeUpdate();
  }

  /** Takes out of a set all inputs that were not taken in. */
  public void dropInputs(StatelessSession session, long set) {
    session
        .createMutationQuery("delete from InputEntity where changeSetId = :set and applied = false")
        .setParameter("set", set)
        .executeUpdate();
  }

  public void markApplied(StatelessSession session, long set, Collection<PersonId> people) {
    session
        .createMutationQuery(
            "update InputEntity set applied = true"
                + " where changeSetId = :set and applied = false"
                + " and personId >= :least and personId <= :most and personId in (:people)")
        .setParameter("set", set)
        .setParameter("least", people.stream().mapToLong(PersonId::value).min().orElse(0))
        .setParameter("most", people.stream().mapToLong(PersonId::value).max().orElse(0))
        .setParameterList("people", people.stream().map(PersonId::value).toList())
        .executeUpdate();
  }

  /** Whether anything of a set was released already. */
  public boolean isPartlyReleased(StatelessSession session, long set) {
    return !session
        .createSelectionQuery(
            "select 1 from InputEntity where changeSetId = :set and applied = true", Integer.class)
        .setParameter("set", set)
        .setMaxResults(1)
        .list()
        .isEmpty();
  }

  /** Notes which people of a set are to be released, where not all are. */
  public void beginPart(StatelessSession session, long set, Collection<PersonId> people) {
    for (var person : people) {
      session
          .createNativeMutationQuery(
              "merge into release_part (change_set_id, person_id) values (:set, :person)")
          .setParameter("set", set)
          .setParameter("person", person.value())
          .executeUpdate();
    }
  }

  /** The next people of the part being released; empty if all are, or none are left. */
  public List<PersonId> part(StatelessSession session, long set, PersonId after, int limit) {
    return session
        .createNativeQuery(
            "select person_id from release_part where change_set_id = :set and person_id > :after"
                + " order by change_set_id, person_id",
            Long.class)
        .setParameter("set", set)
        .setParameter("after", after == null ? 0L : after.value())
        .setMaxResults(limit)
        .stream()
        .map(PersonId::new)
        .toList();
  }

  public void endPart(StatelessSession session, long set) {
    session
        .createNativeMutationQuery("delete from release_part where change_set_id = :set")
        .setParameter("set", set)
        .executeUpdate();
  }

  /** How many refused changes of a set somebody let pass already. */
  public long failuresLet(StatelessSession session, long set) {
    return session
        .createNativeQuery("select failures_let from change_set where id = :set", Long.class)
        .setParameter("set", set)
        .getSingleResult();
  }

  public void letFailures(StatelessSession session, long set, long refused) {
    session
        .createNativeMutationQuery("update change_set set failures_let = :refused where id = :set")
        .setParameter("refused", refused)
        .setParameter("set", set)
        .executeUpdate();
  }
}
