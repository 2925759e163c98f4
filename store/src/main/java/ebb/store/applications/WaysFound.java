package ebb.store.applications;

import ebb.core.application.WaysIn.Way;
import ebb.core.problem.Problem;
import ebb.store.Json;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** What is still open to suspended accounts, as their applications said when they were asked. */
public final class WaysFound {
  /** Begins the id of a way in that is an account of its own; its number follows. */
  private static final String ACCOUNT = "account:";

  /** The id of a way in that is an account of its own. */
  public static String idOf(long account) {
    return ACCOUNT + account;
  }

  /** The account that a way in is; empty if it is none. */
  public static Optional<Long> accountOf(String way) {
    return way.startsWith(ACCOUNT)
        ? Optional.of(Long.valueOf(way.substring(ACCOUNT.length())))
        : Optional.empty();
  }

  /**
   * A way in that was open at the last look.
   *
   * @param waivedBy who said that it may stay open; null if nobody did
   */
  public record Found(
      long account,
      String way,
      String kind,
      String what,
      Instant foundAt,
      String waivedBy,
      Instant waivedAt,
      String reason) {
    public boolean isWaived() {
      return waivedBy != null;
    }
  }

  /**
   * When an account's application was asked, and what it said.
   *
   * @param askedAt null until it was
   * @param problem why it could not be asked the last time; null if it could
   */
  public record Look(
      long account, Instant askedAt, int sessions, Problem problem, List<Found> ways) {
    /** Whether anything is open that nobody has waived. */
    public boolean isOpen() {
      return sessions > 0 || ways.stream().anyMatch(way -> !way.isWaived());
    }

    /** What is open, not waived, and not an account of its own, that an order could shut. */
    public List<Found> toBeShut() {
      return ways.stream()
          .filter(way -> !way.isWaived() && accountOf(way.way()).isEmpty())
          .toList();
    }
  }

  /** Has accounts looked at soon. */
  public void lookSoon(StatelessSession session, Collection<Long> accounts, Instant at) {
    for (var account : accounts) {
      var row = session.get(WayLookEntity.class, account);
      var isNew = row == null;
      if (isNew) {
        row = new WayLookEntity();
        row.accountId = account;
      }
      row.nextLook = at;
      if (isNew) {
        session.insert(row);
      } else {
        session.update(row);
      }
    }
  }

  /** Accounts in use again, or no more, are not looked at. */
  public void forget(StatelessSession session, Collection<Long> accounts) {
    for (var table : List.of("WayLookEntity where accountId", "WayInEntity where id.accountId")) {
      session
          .createMutationQuery("delete from " + table + " in (:accounts)")
          .setParameterList("accounts", accounts)
          .executeUpdate();
    }
  }

  /** Whether any account is to be looked at. */
  public boolean isDue(StatelessSession session, Instant now) {
    return !session
        .createSelectionQuery("select 1 from WayLookEntity where nextLook <= :now", Integer.class)
        .setParameter("now", now)
        .setMaxResults(1)
        .list()
        .isEmpty();
  }

  /** Takes accounts that are due; nobody else gets them before the lease ends. */
  public List<Long> claim(StatelessSession session, Instant now, Instant lease, int limit) {
    return session
        .createSelectionQuery(
            "select accountId from WayLookEntity where nextLook <= :now"
                + " order by nextLook, accountId",
            Long.class)
        .setParameter("now", now)
        .setMaxResults(limit)
        .list()
        .stream()
        .filter(account -> take(session, account, now, lease))
        .toList();
  }

  private static boolean take(StatelessSession session, long account, Instant now, Instant lease) {
    return session
            .createMutationQuery(
                "update WayLookEntity set nextLook = :lease"
                    + " where accountId = :account and nextLook <= :now")
            .setParameter("lease", lease)
            .setParameter("account", account)
            .setParameter("now", now)
            .executeUpdate()
        == 1;
  }

  /**
   * Keeps what an application said. What is not open any more is forgotten, with what was said of
   * it: should it be opened again, somebody has to look again.
   *
   * @return whether that is the first, or other than what it said before
   */
  public boolean keep(
      StatelessSession session,
      long account,
      int sessions,
      List<Way> open,
      Instant at,
      Instant next) {
    var before = session.get(WayLookEntity.class, account);
    var isNews = before == null || before.askedAt == null || before.sessions != sessions;
    asked(session, account, at, sessions, null, next);
    var known =
        found(session, account).stream().collect(Collectors.toMap(Found::way, found -> found));
    for (var way : open) {
      if (known.remove(way.id()) == null) {
        session.insert(row(account, way, at));
        isNews = true;
      }
    }
    known.keySet().forEach(way -> session.delete(entity(session, account, way).orElseThrow()));
    return isNews || !known.isEmpty();
  }

  /** Notes that an application could not be asked; what was known of it stays. */
  public void failed(StatelessSession session, long account, Problem problem, Instant next) {
    var row = session.get(WayLookEntity.class, account);
    if (row != null) {
      asked(session, account, row.askedAt, row.sessions, problem, next);
    }
  }

  private static void asked(
      StatelessSession session,
      long account,
      Instant at,
      int sessions,
      Problem problem,
      Instant next) {
    session
        .createMutationQuery(
            "update WayLookEntity set askedAt = :at, sessions = :sessions, problem = :problem,"
                + " nextLook = :next where accountId = :account")
        .setParameter("at", at)
        .setParameter("sessions", sessions)
        .setParameter("problem", Json.write(problem))
        .setParameter("next", next)
        .setParameter("account", account)
        .executeUpdate();
  }

  private static WayInEntity row(long account, Way way, Instant at) {
    var row = new WayInEntity();
    row.id = new WayInEntity.Key(account, way.id());
    row.kind = way.kind();
    row.what = way.what();
    row.foundAt = at;
    return row;
  }

  private static Optional<WayInEntity> entity(StatelessSession session, long account, String way) {
    return Optional.ofNullable(session.get(WayInEntity.class, new WayInEntity.Key(account, way)));
  }

  /**
   * Says that a way may stay open.
   *
   * @return false if it is not open
   */
  public boolean waive(
      StatelessSession session, long account, String way, String by, String reason, Instant at) {
    var row = entity(session, account, way);
    row.ifPresent(
        found -> {
          found.waivedBy = by;
          found.waivedAt = at;
          found.reason = reason;
          session.update(found);
        });
    return row.isPresent();
  }

  private static List<Found> found(StatelessSession session, long account) {
    return session
        .createSelectionQuery(
            "from WayInEntity where id.accountId = :account order by id.wayId", WayInEntity.class)
        .setParameter("account", account)
        .stream()
        .map(WayInEntity::toFound)
        .toList();
  }

  /** By account; those whose application was never to be asked are left out. */
  public Map<Long, Look> of(StatelessSession session, Collection<Long> accounts) {
    var ways = new HashMap<Long, List<Found>>();
    var looks = new HashMap<Long, Look>();
    if (accounts.isEmpty()) {
      return looks;
    }
    session
        .createSelectionQuery(
            "from WayInEntity where id.accountId in (:accounts) order by id.accountId, id.wayId",
            WayInEntity.class)
        .setParameterList("accounts", accounts)
        .stream()
        .map(WayInEntity::toFound)
        .forEach(found -> ways.computeIfAbsent(found.account(), _ -> new ArrayList<>()).add(found));
    session
        .createSelectionQuery(
            "from WayLookEntity where accountId in (:accounts)", WayLookEntity.class)
        .setParameterList("accounts", accounts)
        .stream()
        .forEach(
            row ->
                looks.put(
                    row.accountId,
                    new Look(
                        row.accountId,
                        row.askedAt,
                        row.sessions,
                        Json.read(row.problem, Problem.class),
                        ways.getOrDefault(row.accountId, List.of()))));
    return looks;
  }

  /** Accounts of people to which something is open that nobody has waived, the oldest first. */
  public List<Long> open(StatelessSession session, int limit) {
    return session
        .createSelectionQuery(
            "select l.accountId from WayLookEntity l where l.sessions > 0 or exists"
                + " (select 1 from WayInEntity w where w.id.accountId = l.accountId"
                + " and w.waivedBy is null) order by l.accountId",
            Long.class)
        .setMaxResults(limit)
        .list();
  }
}
