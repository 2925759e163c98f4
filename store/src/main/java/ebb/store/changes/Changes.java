package ebb.store.changes;

import static java.util.stream.Collectors.joining;

import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeState;
import ebb.core.compare.Edit;
import ebb.core.guard.Taken;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Among;
import ebb.store.Batch;
import ebb.store.Edits;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import org.hibernate.StatelessSession;

/** Changes, what they need first, and the queue they form once released. */
public final class Changes {
  /**
   * Of a set, found by the people: written so that the database does not look through all of a
   * large set for each few of them.
   */
  private static final String OF_SET = "changeSetId + 0 = :set";

  /** How many changes a person has in a set, roughly. */
  private static final int CHANGES_OF_ONE = 8;

  private static final int NEEDS_AT_ONCE = 1_000;

  private static final String INSERT =
      "insert into change (id, change_set_id, person_id, application, account_id, kind, state, due,"
          + " edits, group_name, ground, usable, renames, version, open_needs, attempts)"
          + " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0)";

  public Deque<Long> numbers(StatelessSession session, int count) {
    return Numbers.take(session, "change_seq", count);
  }

  public Optional<Change> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(ChangeEntity.class, id)).map(ChangeMapper::change);
  }

  /**
   * Keeps changes of which nothing was tried yet. A set may hold one for everybody and application:
   * binding the columns that are the same in all of them would cost as much as the others.
   */
  public void add(StatelessSession session, Collection<Change> changes) {
    Batch.execute(
        session, INSERT, changes, (insert, change) -> bind(insert, ChangeMapper.row(change)));
  }

  private static void bind(PreparedStatement insert, ChangeEntity row) throws SQLException {
    insert.setLong(1, row.id);
    insert.setLong(2, row.changeSetId);
    insert.setLong(3, row.personId);
    insert.setString(4, row.application);
    insert.setObject(5, row.accountId, Types.BIGINT);
    insert.setString(6, row.kind);
    insert.setString(7, row.state);
    insert.setObject(8, row.due.atOffset(ZoneOffset.UTC));
    insert.setString(9, row.edits);
    insert.setString(10, row.group);
    insert.setString(11, row.ground);
    insert.setBoolean(12, row.usable);
    insert.setBoolean(13, row.renames);
    insert.setLong(14, row.version);
    insert.setInt(15, row.openNeeds);
  }

  /**
   * Keeps what proposed changes need first.
   *
   * @param firsts change to the changes it needs
   */
  public void putNeeds(StatelessSession session, Map<Long, Set<Long>> firsts) {
    var needs = new ArrayList<NeedEntity>();
    firsts.forEach((change, all) -> all.forEach(first -> needs.add(new NeedEntity(change, first))));
    for (int from = 0; from < needs.size(); from += NEEDS_AT_ONCE) {
      var part = needs.subList(from, Math.min(from + NEEDS_AT_ONCE, needs.size()));
      session.insertMultiple(part);
      countNeeds(session, part.stream().map(need -> need.id.changeId()).distinct().toList());
    }
  }

  private static void countNeeds(StatelessSession session, List<Long> changes) {
    session
        .createNativeMutationQuery(
            "update change set open_needs ="
                + " (select count(*) from change_need n where n.change_id = change.id)"
                + " where id in (:changes)")
        .setParameterList("changes", changes)
        .executeUpdate();
  }

  /** Puts other edits in the place of those of a proposed change. */
  public void putEdits(StatelessSession session, long change, SortedMap<String, Edit> edits) {
    session
        .createMutationQuery(
            "update ChangeEntity set edits = :edits, version = version + 1 where id = :id")
        .setParameter("edits", Edits.write(edits))
        .setParameter("id", change)
        .executeUpdate();
  }

  /**
   * Changes of a set, in the order of their numbers.
   *
   * @param state null for all
   * @param application null for all
   */
  public Page<Change> list(
      StatelessSession session,
      long set,
      ChangeState state,
      String application,
      Reach reach,
      Long after,
      int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from ChangeEntity where changeSetId = :set and id > :after"
                    + (state == null ? "" : " and state = :state")
                    + (application == null ? "" : " and application = :application")
                    + within.within()
                    + " order by id",
                ChangeEntity.class)
            .setParameter("set", set)
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit + 1);
    if (state != null) {
      query.setParameter("state", state.name());
    }
    if (application != null) {
      query.setParameter("application", application);
    }
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(ChangeMapper::change).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /**
   * People with changes in a set, in the order of their numbers.
   *
   * @param states null for any
   * @param application null for any
   */
  public List<PersonId> people(
      StatelessSession session,
      long set,
      Collection<ChangeState> states,
      String application,
      Reach reach,
      Long after,
      int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "select distinct personId from ChangeEntity"
                    + " where changeSetId = :set and personId > :after"
                    + (states == null ? "" : " and state in (:states)")
                    + (application == null ? "" : " and application = :application")
                    + within.within()
                    + " order by personId",
                Long.class)
            .setParameter("set", set)
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit);
    if (states != null) {
      query.setParameterList("states", states.stream().map(ChangeState::name).toList());
    }
    if (application != null) {
      query.setParameter("application", application);
    }
    return within.fill(query).stream().map(PersonId::new).toList();
  }

  /** Changes of a set for these people. */
  public List<Change> of(StatelessSession session, long set, Collection<PersonId> people) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where " + OF_SET + " and personId in (:people) order by id",
            ChangeEntity.class)
        .setParameter("set", set)
        .setParameterList("people", values(people))
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /**
   * How many people a set concerns: those with inputs in it, and those for whom it changes
   * anything.
   */
  public long countPeople(StatelessSession session, long set, Reach reach) {
    return countPeople(session, set, List.of(false, true), "c.state <> 'WITHDRAWN'", reach);
  }

  /** People of a set for whom nothing was released yet. */
  public long countPeopleLeft(StatelessSession session, long set) {
    return countPeople(session, set, List.of(false), "c.state = 'PROPOSED'", Reach.EVERYBODY);
  }

  /**
   * @param applied which inputs count; asked for one after the other, as an index leads to each
   */
  private static long countPeople(
      StatelessSession session, long set, List<Boolean> applied, String change, Reach reach) {
    var ofInputs = ReachClause.on("i.personId", reach);
    var ofChanges = ReachClause.on("c.personId", reach);
    return ofInputs
            .fill(
                session
                    .createSelectionQuery(
                        "select count(distinct i.personId) from InputEntity i"
                            + " where i.changeSetId = :set and i.applied in (:applied)"
                            + ofInputs.within(),
                        Long.class)
                    .setParameter("set", set)
                    .setParameterList("applied", applied))
            .getSingleResult()
        + ofChanges
            .fill(
                session
                    .createSelectionQuery(
                        "select count(distinct c.personId) from ChangeEntity c"
                            + " where c.changeSetId = :set and "
                            + change
                            + applied.stream().map(Changes::withoutInput).collect(joining())
                            + ofChanges.within(),
                        Long.class)
                    .setParameter("set", set))
            .getSingleResult();
  }

  private static String withoutInput(boolean applied) {
    return " and not exists (select 1 from InputEntity i where i.changeSetId = :set"
        + " and i.applied = %s and i.personId = c.personId)".formatted(applied);
  }

  /** What was carried out on a person's accounts, oldest first. */
  public List<Change> done(StatelessSession session, PersonId person, int limit) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where personId = :person and state in ('SEEN', 'ACCEPTED')"
                + " order by id desc",
            ChangeEntity.class)
        .setParameter("person", person.value())
        .setMaxResults(limit)
        .stream()
        .map(ChangeMapper::change)
        .sorted(Comparator.comparing((Change change) -> change.seenAt()).thenComparing(Change::id))
        .toList();
  }

  /**
   * Since when accounts of people are off, as they were switched off here and not on again.
   *
   * @return by account; those of which it is not known are not in it
   */
  public Map<Long, Instant> offSince(StatelessSession session, Collection<PersonId> people) {
    var last = new TreeMap<Long, Long>();
    var since = new HashMap<Long, Instant>();
    Among.each(
        session,
        "select account_id, id, kind, seen_at from change where person_id in (%s)"
            + " and account_id is not null and state in ('SEEN', 'ACCEPTED')"
            + " and kind in ('CREATE', 'OPEN', 'RETURN', 'SUSPEND', 'CLOSE')",
        people.stream().map(PersonId::value).distinct().toList(),
        row -> {
          var account = row.getLong(1);
          if (row.getLong(2) > last.getOrDefault(account, 0L)) {
            last.put(account, row.getLong(2));
            if (isSwitchingOff(row.getString(3))) {
              since.put(account, row.getObject(4, OffsetDateTime.class).toInstant());
            } else {
              since.remove(account);
            }
          }
        });
    return since;
  }

  private static boolean isSwitchingOff(String kind) {
    return kind.equals(ChangeKind.SUSPEND.name()) || kind.equals(ChangeKind.CLOSE.name());
  }

  /** Newest first. */
  public List<Change> ofPerson(StatelessSession session, PersonId person, int limit) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where personId = :person order by id desc", ChangeEntity.class)
        .setParameter("person", person.value())
        .setMaxResults(limit)
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /** How many changes of one application, kind and state a set holds. */
  public record Count(String application, ChangeKind kind, ChangeState state, long count) {}

  public List<Count> counts(StatelessSession session, long set) {
    return session
        .createSelectionQuery(
            "select application, kind, state, count(*) from ChangeEntity where changeSetId = :set"
                + " group by application, kind, state",
            Object[].class)
        .setParameter("set", set)
        .stream()
        .map(
            row ->
                new Count(
                    (String) row[0],
                    ChangeKind.valueOf((String) row[1]),
                    ChangeState.valueOf((String) row[2]),
                    (Long) row[3]))
        .toList();
  }

  /** How many people a set gives something to, or takes it from. */
  public record Effect(String application, ChangeKind kind, String group, long people) {}

  private static final int EFFECTS = 500;

  /** What a set gives and takes; values that change are neither. */
  public List<Effect> effects(StatelessSession session, long set, Reach reach) {
    var within = ReachClause.on("c.personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "select c.application, c.kind, c.group, count(distinct c.personId)"
                        + " from ChangeEntity c where c.changeSetId = :set"
                        + " and c.kind not in ('UPDATE', 'RESET', 'SHUT', 'CATCH_UP')"
                        + " and c.state not in ('WITHDRAWN', 'OVERTAKEN')"
                        + within.within()
                        + " group by c.application, c.kind, c.group",
                    Object[].class)
                .setParameter("set", set)
                .setMaxResults(EFFECTS))
        .stream()
        .map(
            row ->
                new Effect(
                    (String) row[0],
                    ChangeKind.valueOf((String) row[1]),
                    (String) row[2],
                    (Long) row[3]))
        .toList();
  }

  /** The first changes of a kind in a set. */
  public List<Change> ofKind(
      StatelessSession session, long set, ChangeKind kind, Reach reach, int limit) {
    var within = ReachClause.on("c.personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "from ChangeEntity c where c.changeSetId = :set and c.kind = :kind"
                        + " and c.state not in ('WITHDRAWN', 'OVERTAKEN')"
                        + within.within()
                        + " order by c.id",
                    ChangeEntity.class)
                .setParameter("set", set)
                .setParameter("kind", kind.name())
                .setMaxResults(limit))
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /** Different problems for which changes of a set wait or were refused, with how many and when. */
  public record Trouble(
      String application, ChangeState state, Problem problem, long count, Instant nextTry) {}

  public List<Trouble> troubles(StatelessSession session, long set) {
    return session
        .createSelectionQuery(
            "select application, state, problem, count(*), min(due) from ChangeEntity"
                + " where changeSetId = :set and problem is not null and state in"
                + " ('QUEUED', 'UNSURE', 'CLAIMED', 'REFUSED', 'BLOCKED')"
                + " group by application, state, problem order by count(*) desc",
            Object[].class)
        .setParameter("set", set)
        .setMaxResults(20)
        .stream()
        .map(
            row ->
                new Trouble(
                    (String) row[0],
                    ChangeState.valueOf((String) row[1]),
                    Json.read((String) row[2], Problem.class),
                    (Long) row[3],
                    (Instant) row[4]))
        .toList();
  }

  /** What one cause released since an instant, by application and kind. */
  public Map<String, Map<Taken, Long>> takenSince(
      StatelessSession session, Cause cause, Instant since) {
    return taken(
        session
            .createSelectionQuery(
                "select c.application, c.kind, c.renames, count(*)"
                    + " from ChangeEntity c, ChangeSetEntity s"
                    + " where c.changeSetId = s.id and s.cause = :cause and s.releasedAt >= :since"
                    + " and c.state not in ('PROPOSED', 'WITHDRAWN', 'OVERTAKEN')"
                    + " group by c.application, c.kind, c.renames",
                Object[].class)
            .setParameter("cause", cause.name())
            .setParameter("since", since)
            .list());
  }

  /** How many accounts of an application are gone by sets that were released since then. */
  public long countDeletedSince(StatelessSession session, String application, Instant since) {
    return session
        .createSelectionQuery(
            "select count(*) from ChangeEntity c, ChangeSetEntity s"
                + " where c.changeSetId = s.id and s.releasedAt >= :since"
                + " and c.application = :application and c.kind = 'DELETE' and c.state = 'SEEN'",
            Long.class)
        .setParameter("since", since)
        .setParameter("application", application)
        .getSingleResult();
  }

  /** What a set would take from accounts of each application, if it were released now. */
  public Map<String, Map<Taken, Long>> wouldTake(StatelessSession session, long set) {
    return taken(
        session
            .createSelectionQuery(
                "select application, kind, renames, count(*) from ChangeEntity"
                    + " where changeSetId = :set and state = 'PROPOSED'"
                    + " group by application, kind, renames",
                Object[].class)
            .setParameter("set", set)
            .list());
  }

  private static Map<String, Map<Taken, Long>> taken(List<Object[]> counted) {
    var taken = new HashMap<String, Map<Taken, Long>>();
    for (var row : counted) {
      Taken.by(ChangeKind.valueOf((String) row[1]), (Boolean) row[2])
          .ifPresent(
              what ->
                  taken
                      .computeIfAbsent((String) row[0], _ -> new EnumMap<>(Taken.class))
                      .merge(what, (Long) row[3], Long::sum));
    }
    return taken;
  }

  /** What a set holds for one person. */
  public List<Change> ofPersonInSet(StatelessSession session, long set, PersonId person) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where " + OF_SET + " and personId = :person order by id",
            ChangeEntity.class)
        .setParameter("set", set)
        .setParameter("person", person.value())
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /** Proposed changes of a set for these people. */
  public List<Change> proposed(StatelessSession session, long set, Collection<PersonId> people) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where "
                + OF_SET
                + " and state = 'PROPOSED' and personId in (:people)"
                + " order by id",
            ChangeEntity.class)
        .setParameter("set", set)
        .setParameterList("people", values(people))
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /** People with proposed changes in a set, in the order of their numbers. */
  public List<PersonId> peopleProposed(
      StatelessSession session, long set, PersonId after, int limit) {
    return session
        .createSelectionQuery(
            "select personId from ChangeEntity where changeSetId = :set"
                + " and state = 'PROPOSED' and personId > :after"
                + " order by changeSetId, state, personId, id",
            Long.class)
        .setParameter("set", set)
        .setParameter("after", after == null ? 0L : after.value())
        .setMaxResults(limit * CHANGES_OF_ONE)
        .stream()
        .distinct()
        .limit(limit)
        .map(PersonId::new)
        .toList();
  }

  /** Other people whose changes in a set must come before those of these people. */
  public List<PersonId> neededFirst(
      StatelessSession session, long set, Collection<PersonId> people) {
    return session
        .createNativeQuery(
            "select distinct f.person_id from change c join change_need n on n.change_id = c.id"
                + " join change f on f.id = n.needs_id where c.person_id in (:people)"
                + " and c.change_set_id + 0 = :set and c.state = 'PROPOSED'"
                + " and f.state = 'PROPOSED' and f.person_id not in (:people)",
            Long.class)
        .setParameterList("people", values(people))
        .setParameter("set", set)
        .getResultList()
        .stream()
        .map(PersonId::new)
        .toList();
  }

  /** Withdraws proposed changes of a set for these people. */
  public void withdraw(StatelessSession session, long set, Collection<PersonId> people) {
    session
        .createMutationQuery(
            "update ChangeEntity set state = 'WITHDRAWN', version = version + 1"
                + " where "
                + OF_SET
                + " and state = 'PROPOSED' and personId in (:people)")
        .setParameter("set", set)
        .setParameterList("people", values(people))
        .executeUpdate();
  }

  /** Withdraws all that is still proposed in a set. */
  public int withdrawAll(StatelessSession session, long set) {
    return session
        .createMutationQuery(
            "update ChangeEntity set state = 'WITHDRAWN', version = version + 1"
                + " where changeSetId = :set and state = 'PROPOSED'")
        .setParameter("set", set)
        .executeUpdate();
  }

  /**
   * Withdraws what other sets that change no inputs propose for these people: a newer computation
   * stands in its place.
   */
  public void withdrawOlder(
      StatelessSession session,
      long newSet,
      Collection<PersonId> people,
      Collection<Cause> causes) {
    session
        .createMutationQuery(
            "update ChangeEntity set state = 'WITHDRAWN', version = version + 1"
                + " where state = 'PROPOSED' and personId in (:people) and changeSetId + 0 in"
                + " (select id from ChangeSetEntity where id < :set and cause in (:causes))")
        .setParameterList("people", values(people))
        .setParameter("set", newSet)
        .setParameterList("causes", causes.stream().map(Cause::name).toList())
        .executeUpdate();
  }

  /** Puts proposed changes of these people into the queue. */
  public int release(
      StatelessSession session,
      long set,
      Collection<PersonId> people,
      Collection<ChangeKind> kinds) {
    return session
        .createMutationQuery(
            "update ChangeEntity set state = 'QUEUED', version = version + 1"
                + " where "
                + OF_SET
                + " and state = 'PROPOSED' and personId in (:people)"
                + " and kind in (:kinds)")
        .setParameter("set", set)
        .setParameterList("people", values(people))
        .setParameterList("kinds", kinds.stream().map(ChangeKind::name).toList())
        .executeUpdate();
  }

  /** Releases these changes; those that are not proposed any more stay as they are. */
  public int release(StatelessSession session, Collection<Long> ids) {
    return ids.isEmpty()
        ? 0
        : session
            .createMutationQuery(
                "update ChangeEntity set state = 'QUEUED', version = version + 1"
                    + " where id in (:ids) and state = 'PROPOSED'")
            .setParameterList("ids", ids)
            .executeUpdate();
  }

  /**
   * How many people follow from a ground in a set, and did in those that somebody released since.
   *
   * @param by who released those others
   */
  public long peopleBy(
      StatelessSession session, String ground, long set, String by, Instant since) {
    return session
        .createSelectionQuery(
            "select count(distinct c.personId) from ChangeEntity c, ChangeSetEntity s"
                + " where c.changeSetId = s.id and s.releasedBy = :by and s.releasedAt >= :since"
                + " and c.ground = :ground and c.state not in ('WITHDRAWN', 'OVERTAKEN')"
                + " and (c.state <> 'PROPOSED' or s.id = :set)",
            Long.class)
        .setParameter("by", by)
        .setParameter("since", since)
        .setParameter("ground", ground)
        .setParameter("set", set)
        .getSingleResult();
  }

  /** Puts what was refused or blocked in a set back into the queue. */
  public int retry(StatelessSession session, long set, Instant now) {
    return session
        .createMutationQuery(
            "update ChangeEntity set state = 'QUEUED', due = :now, version = version + 1"
                + " where changeSetId = :set and state in ('REFUSED', 'BLOCKED')")
        .setParameter("set", set)
        .setParameter("now", now)
        .executeUpdate();
  }

  /** Whether a set has a change in any of these states. */
  public boolean isAny(StatelessSession session, long set, Collection<ChangeState> states) {
    return states.stream()
        .anyMatch(
            state ->
                !session
                    .createSelectionQuery(
                        "select id from ChangeEntity where changeSetId = :set and state = :state",
                        Long.class)
                    .setParameter("set", set)
                    .setParameter("state", state.name())
                    .setMaxResults(1)
                    .list()
                    .isEmpty());
  }

  public long countRefused(StatelessSession session, long set) {
    return counts(session, set).stream()
        .filter(count -> count.state() == ChangeState.REFUSED)
        .mapToLong(Count::count)
        .sum();
  }

  /** Stops what of a set waits for its turn. */
  public int halt(StatelessSession session, long set) {
    return move(session, set, ChangeState.QUEUED, ChangeState.HALTED);
  }

  /** Lets what was stopped of a set wait for its turn again. */
  public int goOn(StatelessSession session, long set) {
    return move(session, set, ChangeState.HALTED, ChangeState.QUEUED);
  }

  private static int move(StatelessSession session, long set, ChangeState from, ChangeState to) {
    return session
        .createMutationQuery(
            "update ChangeEntity set state = :to, version = version + 1"
                + " where changeSetId = :set and state = :from")
        .setParameter("set", set)
        .setParameter("from", from.name())
        .setParameter("to", to.name())
        .executeUpdate();
  }

  /** Changes of these people that are released and not over. */
  public List<Change> underWay(StatelessSession session, Collection<PersonId> people) {
    if (people.isEmpty()) {
      return List.of();
    }
    return session
        .createSelectionQuery(
            "from ChangeEntity where personId in (:people)"
                + " and state in ('QUEUED', 'HALTED', 'CLAIMED', 'UNSURE') order by id",
            ChangeEntity.class)
        .setParameterList("people", values(people))
        .stream()
        .map(ChangeMapper::change)
        .toList();
  }

  /** How many accounts that exist the proposed changes of a set concern. */
  public long countAccounts(StatelessSession session, long set) {
    return session
        .createSelectionQuery(
            "select count(distinct accountId) from ChangeEntity where changeSetId = :set",
            Long.class)
        .setParameter("set", set)
        .getSingleResult();
  }

  /** How many changes there are in any of these states. */
  public long count(StatelessSession session, Collection<ChangeState> states) {
    return InState.count(session, states);
  }

  /** Whether these people still have creates or openings on their way. */
  public Set<PersonId> withAccountsComing(StatelessSession session, Collection<PersonId> people) {
    var coming = new HashSet<PersonId>();
    Among.each(
        session,
        "select person_id from change where person_id in (%s) and kind in ('CREATE', 'OPEN')"
            + " and state in ('QUEUED', 'HALTED', 'CLAIMED', 'UNSURE')",
        values(people),
        row -> coming.add(new PersonId(row.getLong(1))));
    return coming;
  }

  private static List<Long> values(Collection<PersonId> people) {
    return people.stream().map(PersonId::value).toList();
  }
}
