package ebb.store.applications;

import ebb.core.application.Activity.Use;
import ebb.core.operator.Reach;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/**
 * When accounts were last used by their owners, as their applications said when they were asked.
 */
public final class AccountUses {
  private static final String IN_USE =
      " exists (select 1 from AccountEntity a where a.id = u.accountId and a.level = 'ACTIVE'%s)";

  /**
   * Since when nobody has signed in.
   *
   * @param signedInAt null if never
   * @param usedAt when something was last done with it, by its owner or not; null if never
   * @param since the sign-in, or when it was first asked about where there never was one
   */
  public record Idle(
      long account,
      Instant signedInAt,
      Instant usedAt,
      Instant firstAskedAt,
      Instant askedAt,
      Instant since) {}

  /** Where the list goes on: behind this one. */
  public record Mark(Instant since, long account) {}

  /** The next accounts in use in an application, in the order of their numbers. */
  public List<Long> inUse(StatelessSession session, String application, long after, int limit) {
    return session
        .createSelectionQuery(
            "select id from AccountEntity where application = :application and id > :after"
                + " and level = 'ACTIVE' order by id",
            Long.class)
        .setParameter("application", application)
        .setParameter("after", after)
        .setMaxResults(limit)
        .list();
  }

  /** When their owners signed in last, where that is known. */
  public Map<Long, Instant> signedInAt(StatelessSession session, Collection<Long> accounts) {
    return accounts.isEmpty()
        ? Map.of()
        : session.getMultiple(AccountUseEntity.class, List.copyOf(accounts)).stream()
            .filter(row -> row != null && row.signedInAt != null)
            .collect(Collectors.toMap(row -> row.accountId, row -> row.signedInAt));
  }

  /** Keeps what an application said of accounts. */
  public void keep(StatelessSession session, String application, Map<Long, Use> said, Instant at) {
    said.forEach(
        (account, use) -> {
          var before = session.get(AccountUseEntity.class, account);
          var row = new AccountUseEntity();
          row.accountId = account;
          row.application = application;
          row.signedInAt = use.signedInAt();
          row.usedAt = use.usedAt();
          row.firstAskedAt = before == null ? at : before.firstAskedAt;
          row.askedAt = at;
          row.idleSince = use.signedInAt() == null ? row.firstAskedAt : use.signedInAt();
          session.upsert(row);
        });
  }

  /**
   * Accounts in use into which nobody has signed in since, the longest first.
   *
   * @param after null to begin
   */
  public Page<Idle> idle(
      StatelessSession session,
      String application,
      Instant since,
      Reach reach,
      Mark after,
      int limit) {
    var within = ReachClause.on("a.personId", reach);
    var query =
        within
            .fill(
                session.createSelectionQuery(
                    "from AccountUseEntity u where u.application = :application"
                        + " and u.idleSince < :since and"
                        + IN_USE.formatted(within.within())
                        + (after == null
                            ? ""
                            : " and (u.idleSince > :mark"
                                + " or (u.idleSince = :mark and u.accountId > :account))")
                        + " order by u.idleSince, u.accountId",
                    AccountUseEntity.class))
            .setParameter("application", application)
            .setParameter("since", since)
            .setMaxResults(limit + 1);
    if (after != null) {
      query.setParameter("mark", after.since()).setParameter("account", after.account());
    }
    var rows = query.list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(AccountUseEntity::toIdle).toList(),
        rows.size() > limit ? shown.getLast().idleSince + "," + shown.getLast().accountId : null);
  }

  /** How many there are. */
  public long countIdle(StatelessSession session, String application, Instant since, Reach reach) {
    var within = ReachClause.on("a.personId", reach);
    return within
        .fill(
            session.createSelectionQuery(
                "select count(*) from AccountUseEntity u where u.application = :application"
                    + " and u.idleSince < :since and"
                    + IN_USE.formatted(within.within()),
                Long.class))
        .setParameter("application", application)
        .setParameter("since", since)
        .getSingleResult();
  }
}
