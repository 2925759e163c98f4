package ebb.store.people;

import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.store.Among;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Orders that keep people out of applications for a time. */
public final class Suspensions {
  /** Numbers that no grant has either. */
  public Deque<Long> numbers(StatelessSession session, int count) {
    return Numbers.take(session, "grant_seq", count);
  }

  /** Those that were not ended, whatever their dates. */
  public Map<PersonId, List<Suspension>> of(StatelessSession session, Collection<PersonId> people) {
    var ids = new ArrayList<Long>();
    if (!isAnybody(session)) {
      return Map.of();
    }
    Among.each(
        session,
        "select id from suspension where person_id in (%s) and ended_by is null",
        people.stream().map(PersonId::value).distinct().toList(),
        row -> ids.add(row.getLong(1)));
    // Hardly anybody is: only of those few is all of it read.
    return ids.isEmpty()
        ? Map.of()
        : session.getMultiple(SuspensionEntity.class, List.copyOf(ids)).stream()
            .map(SuspensionEntity::toSuspension)
            .collect(Collectors.groupingBy(Suspension::person));
  }

  /** Where nobody is, that is known without asking for each. */
  private static boolean isAnybody(StatelessSession session) {
    return !session
        .createSelectionQuery("select 1 from SuspensionEntity where endedBy is null", Integer.class)
        .setMaxResults(1)
        .list()
        .isEmpty();
  }

  /** Empty if there is none, or it was ended. */
  public Optional<Suspension> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(SuspensionEntity.class, id))
        .filter(row -> row.endedBy == null)
        .map(SuspensionEntity::toSuspension);
  }

  /** By which set it was ordered; null if there is no such suspension. */
  public Long cause(StatelessSession session, long id) {
    var row = session.get(SuspensionEntity.class, id);
    return row == null ? null : row.cause;
  }

  /** In force on a day or later, in the order in which they were ordered. */
  public Page<Suspension> list(
      StatelessSession session, LocalDate day, Reach reach, Long after, int limit) {
    var within = ReachClause.on("s.personId", reach);
    var rows =
        within
            .fill(
                session
                    .createSelectionQuery(
                        "from SuspensionEntity s where s.endedBy is null and s.id > :after"
                            + " and (s.until is null or s.until >= :day)"
                            + within.within()
                            + " order by s.endedBy, s.id",
                        SuspensionEntity.class)
                    .setParameter("after", after == null ? 0L : after)
                    .setParameter("day", day)
                    .setMaxResults(limit + 1))
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(SuspensionEntity::toSuspension).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** Those whose day of review has come, the oldest first. */
  public List<Suspension> toReview(
      StatelessSession session, LocalDate day, Reach reach, int limit) {
    var within = ReachClause.on("s.personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "from SuspensionEntity s where s.endedBy is null and s.review <= :day"
                        + " and (s.until is null or s.until >= :day)"
                        + within.within()
                        + " order by s.review, s.id",
                    SuspensionEntity.class)
                .setParameter("day", day)
                .setMaxResults(limit))
        .stream()
        .map(SuspensionEntity::toSuspension)
        .toList();
  }

  /** What a cause ordered and nothing has ended since. */
  public List<Suspension> orderedBy(StatelessSession session, long cause) {
    return where(session, "cause = :cause and endedBy is null", cause);
  }

  /** What a cause ended. */
  public List<Suspension> endedBy(StatelessSession session, long cause) {
    return where(session, "endedBy = :cause", cause);
  }

  /** Orders it, or again what was ended. */
  public void order(StatelessSession session, Suspension suspension, long cause) {
    session.upsert(SuspensionEntity.of(suspension, cause));
  }

  public void end(StatelessSession session, long id, long cause) {
    session
        .createMutationQuery("update SuspensionEntity set endedBy = :cause where id = :id")
        .setParameter("cause", cause)
        .setParameter("id", id)
        .executeUpdate();
  }

  private static List<Suspension> where(StatelessSession session, String condition, long cause) {
    return session
        .createSelectionQuery("from SuspensionEntity where " + condition, SuspensionEntity.class)
        .setParameter("cause", cause)
        .stream()
        .map(SuspensionEntity::toSuspension)
        .toList();
  }
}
