package ebb.store.people;

import ebb.core.operator.Reach;
import ebb.core.person.Oddity;
import ebb.core.person.PersonId;
import ebb.store.ReachClause;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/** Finds people with whom something may be amiss, among those who are here on a day. */
public final class Oddities {
  private static final String HERE =
      " from PersonEntity p where p.attributes <> '{}'"
          + " and (p.startDate is null or p.startDate <= :day)"
          + " and (p.endDate is null or p.endDate >= :day)";

  public long count(StatelessSession session, Oddity oddity, LocalDate day, Reach reach) {
    var within = ReachClause.on("p.id", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "select count(*)" + HERE + condition(oddity) + within.within(), Long.class)
                .setParameter("day", day))
        .getSingleResult();
  }

  /** By their numbers, after the one given. */
  public List<PersonId> list(
      StatelessSession session,
      Oddity oddity,
      LocalDate day,
      Reach reach,
      PersonId after,
      int limit) {
    var within = ReachClause.on("p.id", reach);
    SelectionQuery<Long> query =
        session
            .createSelectionQuery(
                "select p.id"
                    + HERE
                    + condition(oddity)
                    + within.within()
                    + " and p.id > :after order by p.id",
                Long.class)
            .setParameter("day", day)
            .setParameter("after", after.value())
            .setMaxResults(limit);
    return within.fill(query).stream().map(PersonId::new).toList();
  }

  private static String condition(Oddity oddity) {
    return switch (oddity) {
      case NO_UNIT -> " and p.department is null";
      case NO_MANAGER -> " and p.managerId is null";
      case MANAGER_GONE ->
          " and p.managerId is not null and not exists (select 1 from PersonEntity m"
              + " where m.id = p.managerId and m.attributes <> '{}'"
              + " and (m.endDate is null or m.endDate >= :day))";
      // A candidate: whoever is in a loop is somebody's manager, and has one.
      case MANAGER_LOOP ->
          " and p.managerId is not null"
              + " and exists (select 1 from PersonEntity r where r.managerId = p.id)";
      case NO_ACCOUNT ->
          " and not exists (select 1 from AccountEntity a"
              + " where a.personId = p.id and a.level = 'ACTIVE')";
      case UNCLEAR -> " and p.unclear is not null";
    };
  }
}
