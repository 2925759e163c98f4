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

  /** Those in which anybody is, by name, after the one given. */
  public Page<Named> groups(StatelessSession session, String after, int limit) {
    return named(
        session,
        "count(*), sum(case when given then 1 else 0 end) from account_group where name > :after",
        after,
        limit);
  }

  /** Those in which nobody is, and which somebody left as they are nowhere; by name. */
  public Page<Named> empty(StatelessSession session, String after, int limit) {
    return named(
        session,
        "0, 0 from app_group e where e.name > :after and e.left_alone is null and not e.nests"
            + " and not exists"
            + " (select 1 from account_group a"
            + " where a.name = e.name and a.application = e.application)",
        after,
        limit);
  }

  private static Page<Named> named(StatelessSession session, String what, String after, int limit) {
    var rows =
        session
            .createNativeQuery(
                "select name, listagg(distinct application, ',') within group (order by application), "
                    + what
                    + " group by name order by name",
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

  /**
   * How far a group reaches, with those within it.
   *
   * @param accounts in it, in all applications
   * @param inUse those of them that can be used
   * @param people whose they are
   * @param units to which those belong
   */
  public record Reached(long accounts, long inUse, long people, long units) {}

  public Reached reached(StatelessSession session, String group) {
    var in = InGroup.of(Groups.nestings(session), group);
    var row =
        in.fill(
                session.createSelectionQuery(
                    "select count(*), sum(case when a.level = 'ACTIVE' then 1 else 0 end),"
                        + " count(distinct a.personId), count(distinct p.department)"
                        + " from AccountEntity a left join PersonEntity p on p.id = a.personId"
                        + " where a.id in "
                        + accounts(in),
                    Object[].class))
            .getSingleResult();
    return new Reached(number(row[0]), number(row[1]), number(row[2]), number(row[3]));
  }

  private static String accounts(InGroup in) {
    return "(select g.id.account from AccountGroupEntity g where %s)".formatted(in.condition());
  }

  /** A sum over nothing is null. */
  private static long number(Object found) {
    return found == null ? 0 : ((Number) found).longValue();
  }

  /** The numbers of the accounts of people in a group, or in one within it, after the one given. */
  public List<Long> of(StatelessSession session, String group, Reach reach, long after, int limit) {
    var within = ReachClause.on("a.personId", reach);
    var in = InGroup.of(Groups.nestings(session), group);
    return in.fill(
            within.fill(
                session
                    .createSelectionQuery(
                        "select a.id from AccountEntity a where a.personId is not null"
                            + " and a.id > :after and a.id in "
                            + accounts(in)
                            + within.within()
                            + " order by a.id",
                        Long.class)
                    .setParameter("after", after)
                    .setMaxResults(limit)))
        .list();
  }
}
