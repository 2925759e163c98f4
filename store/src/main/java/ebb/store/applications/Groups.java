package ebb.store.applications;

import ebb.core.application.Nesting;
import ebb.core.application.ObservedGroup;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Page;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.hibernate.StatelessSession;

/** Groups of applications as they were last seen, and the accounts in each. */
public final class Groups {
  private static final String DELETE =
      "delete from account_group where account_id = ? and name = ?";
  private static final String INSERT =
      "insert into account_group (account_id, application, name, given) values (?, ?, ?, ?)";

  /**
   * A group.
   *
   * @param members how many accounts are in it
   * @param given how many of them Ebb put there
   * @param leftAlone that it means nothing here; null if nobody said so
   */
  public record Counted(ObservedGroup group, long members, long given, LeftAlone leftAlone) {}

  /**
   * Says that a group means nothing here, or that it does after all.
   *
   * @param leftAlone null for the latter
   * @return whether there is such a group
   */
  public boolean leaveAlone(
      StatelessSession session, String application, String name, LeftAlone leftAlone) {
    return session
            .createNativeMutationQuery(
                "update app_group set left_alone = :left"
                    + " where application = :application and name = :name")
            .setParameter("left", Json.write(leftAlone))
            .setParameter("application", application)
            .setParameter("name", name)
            .executeUpdate()
        > 0;
  }

  public void put(StatelessSession session, String application, ObservedGroup group) {
    session
        .createNativeMutationQuery(
            "merge into app_group (application, remote_id, name, body, nests)"
                + " values (:application, :id, :name, :body, :nests)")
        .setParameter("application", application)
        .setParameter("id", group.id())
        .setParameter("name", group.name())
        .setParameter("body", Json.write(group))
        .setParameter("nests", !group.inner().isEmpty())
        .executeUpdate();
  }

  public void remove(StatelessSession session, String application, String id) {
    session
        .createNativeMutationQuery(
            "delete from app_group where application = :application and remote_id = :id")
        .setParameter("application", application)
        .setParameter("id", id)
        .executeUpdate();
  }

  /** All of an application, by id; as many as there are, without their members. */
  public Map<String, ObservedGroup> all(StatelessSession session, String application) {
    var all = new HashMap<String, ObservedGroup>();
    session
        .createNativeQuery(
            "select body from app_group where application = :application", String.class)
        .setParameter("application", application)
        .getResultStream()
        .map(body -> Json.read(body, ObservedGroup.class))
        .forEach(group -> all.put(group.id(), group));
    return all;
  }

  /** Which groups of an application are within which. */
  public Nesting nesting(StatelessSession session, String application) {
    return nestings(session).getOrDefault(application, Nesting.NONE);
  }

  /** By application; one without such groups is missing. */
  static Map<String, Nesting> nestings(StatelessSession session) {
    var inner = new HashMap<String, Map<String, Set<String>>>();
    session
        .createNativeQuery("select application, body from app_group where nests", Object[].class)
        .getResultStream()
        .forEach(
            row -> {
              var group = Json.read((String) row[1], ObservedGroup.class);
              inner
                  .computeIfAbsent((String) row[0], _ -> new HashMap<>())
                  .put(group.name(), group.inner());
            });
    var nestings = new HashMap<String, Nesting>();
    inner.forEach((application, groups) -> nestings.put(application, new Nesting(groups)));
    return nestings;
  }

  /** Whether an application whose groups are known has none of that name. */
  public boolean lacks(StatelessSession session, String application, String name) {
    return session
        .createNativeQuery(
            "select exists (select 1 from app_group where application = :application)"
                + " and not exists (select 1 from app_group where application = :application"
                + " and name = :name)",
            Boolean.class)
        .setParameter("application", application)
        .setParameter("name", name)
        .getSingleResult();
  }

  /** By name, after the one given. */
  public Page<Counted> list(StatelessSession session, String application, String after, int limit) {
    var rows =
        session
            .createNativeQuery(
                "select g.body, (select count(*) from account_group a"
                    + " where a.application = g.application and a.name = g.name) members,"
                    + " (select count(*) from account_group a where a.given"
                    + " and a.application = g.application and a.name = g.name) given,"
                    + " g.left_alone"
                    + " from app_group g where g.application = :application and g.name > :after"
                    + " order by g.name",
                Object[].class)
            .setParameter("application", application)
            .setParameter("after", after == null ? "" : after)
            .setMaxResults(limit + 1)
            .getResultList();
    var shown =
        rows.subList(0, Math.min(limit, rows.size())).stream()
            .map(
                row ->
                    new Counted(
                        Json.read((String) row[0], ObservedGroup.class),
                        ((Number) row[1]).longValue(),
                        ((Number) row[2]).longValue(),
                        Json.read((String) row[3], LeftAlone.class)))
            .toList();
    return new Page<>(shown, rows.size() > limit ? shown.getLast().group().name() : null);
  }

  /** The numbers of the accounts in a group. */
  public List<Long> accountsIn(StatelessSession session, String application, String name) {
    return session
        .createNativeQuery(
            "select account_id from account_group"
                + " where application = :application and name = :name",
            Long.class)
        .setParameter("application", application)
        .setParameter("name", name)
        .getResultList();
  }

  /** Keeps which groups accounts are in, where that is not what is kept of them. */
  static void keep(StatelessSession session, Collection<Account> accounts) {
    var kept = new HashMap<Long, Map<String, Boolean>>();
    Among.each(
        session,
        "select account_id, name, given from account_group where account_id in (%s)",
        accounts.stream().map(Account::id).toList(),
        row ->
            kept.computeIfAbsent(row.getLong(1), _ -> new HashMap<>())
                .put(row.getString(2), row.getBoolean(3)));
    change(session, kept, accounts);
  }

  /** Keeps which groups accounts are in that are new. */
  static void add(StatelessSession session, Collection<Account> made) {
    if (made.stream().anyMatch(account -> !account.observed().groups().isEmpty())) {
      change(session, Map.of(), made);
    }
  }

  private static void change(
      StatelessSession session,
      Map<Long, Map<String, Boolean>> kept,
      Collection<Account> accounts) {
    session.doWork(
        connection -> {
          try (var delete = connection.prepareStatement(DELETE);
              var insert = connection.prepareStatement(INSERT)) {
            for (var account : accounts) {
              var before = kept.getOrDefault(account.id(), Map.of());
              var now = memberships(account);
              if (!before.equals(now)) {
                change(account, before, now, delete, insert);
              }
            }
            delete.executeBatch();
            insert.executeBatch();
          }
        });
  }

  private static Map<String, Boolean> memberships(Account account) {
    var memberships = new HashMap<String, Boolean>();
    if (account.level().exists()) {
      account
          .observed()
          .groups()
          .forEach(name -> memberships.put(name, account.grounds().containsKey(name)));
    }
    return memberships;
  }

  private static void change(
      Account account,
      Map<String, Boolean> before,
      Map<String, Boolean> now,
      PreparedStatement delete,
      PreparedStatement insert)
      throws SQLException {
    for (var one : before.entrySet()) {
      if (!one.getValue().equals(now.get(one.getKey()))) {
        delete.setLong(1, account.id());
        delete.setString(2, one.getKey());
        delete.addBatch();
      }
    }
    for (var one : now.entrySet()) {
      if (!one.getValue().equals(before.get(one.getKey()))) {
        insert.setLong(1, account.id());
        insert.setString(2, account.application());
        insert.setString(3, one.getKey());
        insert.setBoolean(4, one.getValue());
        insert.addBatch();
      }
    }
  }
}
