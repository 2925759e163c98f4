package ebb.store.applications;

import ebb.core.application.ObservedGroup;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Page;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.hibernate.StatelessSession;

/** Groups of applications as they were last seen, and the accounts in each. */
public final class Groups {
  /**
   * A group.
   *
   * @param members how many accounts are in it
   */
  public record Counted(ObservedGroup group, long members) {}

  public void put(StatelessSession session, String application, ObservedGroup group) {
    session
        .createNativeMutationQuery(
            "merge into app_group (application, remote_id, name, body)"
                + " values (:application, :id, :name, :body)")
        .setParameter("application", application)
        .setParameter("id", group.id())
        .setParameter("name", group.name())
        .setParameter("body", Json.write(group))
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

  /** By name, after the one given. */
  public Page<Counted> list(StatelessSession session, String application, String after, int limit) {
    var rows =
        session
            .createNativeQuery(
                "select g.body, (select count(*) from account_group a"
                    + " where a.application = g.application and a.name = g.name)"
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
                        ((Number) row[1]).longValue()))
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

  /** Keeps which groups accounts are in: those whose groups are not what is kept of them. */
  static void keep(StatelessSession session, Collection<Account> accounts) {
    var before = new HashMap<Long, Set<String>>();
    Among.each(
        session,
        "select account_id, name from account_group where account_id in (%s)",
        accounts.stream().map(Account::id).toList(),
        row -> before.computeIfAbsent(row.getLong(1), _ -> new HashSet<>()).add(row.getString(2)));
    session.doWork(connection -> keep(connection, before, accounts));
  }

  private static void keep(
      Connection connection, Map<Long, Set<String>> before, Collection<Account> accounts)
      throws SQLException {
    try (var delete =
            connection.prepareStatement(
                "delete from account_group where account_id = ? and name = ?");
        var insert =
            connection.prepareStatement(
                "insert into account_group (account_id, application, name) values (?, ?, ?)")) {
      for (var account : accounts) {
        var now = account.level().exists() ? account.observed().groups() : Set.<String>of();
        var kept = before.getOrDefault(account.id(), Set.of());
        for (var name : kept) {
          if (!now.contains(name)) {
            delete.setLong(1, account.id());
            delete.setString(2, name);
            delete.addBatch();
          }
        }
        for (var name : now) {
          if (!kept.contains(name)) {
            insert.setLong(1, account.id());
            insert.setString(2, account.application());
            insert.setString(3, name);
            insert.addBatch();
          }
        }
      }
      delete.executeBatch();
      insert.executeBatch();
    }
  }
}
