package ebb.store.applications;

import ebb.core.operator.Reach;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.util.List;
import java.util.Objects;
import org.hibernate.StatelessSession;

/** Who is in a group, in whichever application; groups of one name are one group. */
public final class Holders {
  /**
   * A group across applications.
   *
   * @param accounts in it
   * @param given those of them that Ebb put there
   */
  public record Named(String name, List<String> applications, long accounts, long given) {}

  /** By name, after the one given. */
  public Page<Named> groups(StatelessSession session, String after, int limit) {
    var rows =
        session
            .createNativeQuery(
                "select name, listagg(distinct application, ',') within group (order by application),"
                    + " count(*), sum(case when given then 1 else 0 end)"
                    + " from account_group where name > :after group by name order by name",
                Object[].class)
            .setParameter("after", Objects.requireNonNullElse(after, ""))
            .setMaxResults(limit + 1)
            .getResultList();
    var shown =
        rows.subList(0, Math.min(limit, rows.size())).stream()
            .map(
                row ->
                    new Named(
                        (String) row[0],
                        List.of(((String) row[1]).split(",")),
                        ((Number) row[2]).longValue(),
                        ((Number) row[3]).longValue()))
            .toList();
    return new Page<>(shown, rows.size() > limit ? shown.getLast().name() : null);
  }

  /** The numbers of the accounts of people in a group, after the one given. */
  public List<Long> of(StatelessSession session, String group, Reach reach, long after, int limit) {
    var within = ReachClause.on("a.personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "select a.id from AccountEntity a where a.personId is not null"
                        + " and a.id > :after and a.id in"
                        + " (select g.id.account from AccountGroupEntity g where g.id.name = :name)"
                        + within.within()
                        + " order by a.id",
                    Long.class)
                .setParameter("after", after)
                .setParameter("name", group)
                .setMaxResults(limit))
        .list();
  }
}
