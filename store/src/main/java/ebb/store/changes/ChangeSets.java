package ebb.store.changes;

import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.person.PersonId;
import ebb.store.Numbers;
import ebb.store.Page;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Change sets and the inputs they hold until release. */
public final class ChangeSets {
  public static final List<Class<?>> ENTITIES =
      List.of(ChangeSetEntity.class, InputEntity.class, ChangeEntity.class);

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
   */
  public Page<ChangeSet> list(StatelessSession session, SetState state, Long before, int limit) {
    var query =
        session
            .createSelectionQuery(
                "from ChangeSetEntity where id < :before"
                    + (state == null ? "" : " and state = :state")
                    + " order by id desc",
                ChangeSetEntity.class)
            .setParameter("before", before == null ? Long.MAX_VALUE : before)
            .setMaxResults(limit + 1);
    if (state != null) {
      query.setParameter("state", state.name());
    }
    var rows = query.list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(ChangeMapper::set).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
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
    session.insertMultiple(
        inputs.stream().map(input -> ChangeMapper.row(numbers.pop(), set, input)).toList());
  }

  /** Inputs not taken in yet, of the next people in the order of their numbers. */
  public List<Input> nextInputs(StatelessSession session, long set, PersonId after, int limit) {
    return session
        .createSelectionQuery(
            "from InputEntity where changeSetId = :set and applied = false and personId > :after"
                + " order by personId, id",
            InputEntity.class)
        .setParameter("set", set)
        .setParameter("after", after == null ? 0L : after.value())
        .setMaxResults(limit)
        .stream()
        .map(ChangeMapper::input)
        .toList();
  }

  /** All inputs of a set for these people that were not taken in yet. */
  public List<Input> inputs(StatelessSession session, long set, Collection<PersonId> people) {
    return session
        .createSelectionQuery(
            "from InputEntity where changeSetId = :set and applied = false and personId in (:people)"
                + " order by personId, id",
            InputEntity.class)
        .setParameter("set", set)
        .setParameterList("people", people.stream().map(PersonId::value).toList())
        .stream()
        .map(ChangeMapper::input)
        .toList();
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

  public void markApplied(StatelessSession session, long set, Collection<PersonId> people) {
    session
        .createMutationQuery(
            "update InputEntity set applied = true"
                + " where changeSetId = :set and applied = false and personId in (:people)")
        .setParameter("set", set)
        .setParameterList("people", people.stream().map(PersonId::value).toList())
        .executeUpdate();
  }
}
