package ebb.store.applications;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Accounts in all applications, as they were last seen. */
public final class Accounts {
  private static final int AT_ONCE = 1_000;

  public long number(StatelessSession session) {
    return Numbers.next(session, "account_seq");
  }

  /** As many numbers as asked for, ascending. */
  public Deque<Long> numbers(StatelessSession session, int count) {
    return Numbers.take(session, "account_seq", count);
  }

  public Optional<Account> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(AccountEntity.class, id)).map(Accounts::account);
  }

  public Map<Long, Account> getAll(StatelessSession session, Collection<Long> ids) {
    return session
        .createSelectionQuery("from AccountEntity where id in (:ids)", AccountEntity.class)
        .setParameterList("ids", ids)
        .stream()
        .map(Accounts::account)
        .collect(Collectors.toMap(Account::id, account -> account));
  }

  /** All accounts of these people that were ever seen, gone ones too. */
  public Map<PersonId, List<Account>> of(StatelessSession session, Collection<PersonId> people) {
    var all = new ArrayList<Account>();
    Among.each(
        session,
        "select id, application, person_id, level, observed, grounds, closing, left_alone, seen_at"
            + " from account where person_id in (%s)",
        people.stream().map(PersonId::value).distinct().toList(),
        row -> all.add(account(row)));
    return all.stream()
        .sorted(Comparator.comparingLong(Account::id))
        .collect(Collectors.groupingBy(Account::person));
  }

  /** The account a person has in an application now; empty if there is none that exists. */
  public Optional<Account> existing(StatelessSession session, PersonId person, String application) {
    return of(session, List.of(person)).getOrDefault(person, List.of()).stream()
        .filter(account -> account.application().equals(application))
        .filter(account -> account.level().exists())
        .findFirst();
  }

  /** Accounts of an application by its own ids, as far as they are known. */
  public Map<String, Account> byRemoteIds(
      StatelessSession session, String application, Collection<String> ids) {
    var numbers = session.doReturningWork(connection -> numbers(connection, application, ids));
    return numbers.isEmpty()
        ? Map.of()
        : getAll(session, numbers).values().stream()
            .collect(Collectors.toMap(account -> account.observed().id(), account -> account));
  }

  /** One by one: the database would look through all accounts of the application for a list. */
  private static List<Long> numbers(
      Connection connection, String application, Collection<String> ids) throws SQLException {
    var numbers = new ArrayList<Long>();
    try (var query =
        connection.prepareStatement(
            "select id from account where application = ? and remote_id = ?")) {
      query.setString(1, application);
      for (var id : ids) {
        query.setString(2, id);
        try (var found = query.executeQuery()) {
          if (found.next()) {
            numbers.add(found.getLong(1));
          }
        }
      }
    }
    return numbers;
  }

  /** Takes what is kept of one account, without its parts. */
  public interface Kept {
    /**
     * @param observed as it is written
     */
    void account(long id, String remoteId, Level level, String observed);
  }

  /** What is kept of all accounts of an application, as it lies. */
  public void each(StatelessSession session, String application, Kept kept) {
    session.doWork(connection -> each(connection, application, kept));
  }

  private static void each(Connection connection, String application, Kept kept)
      throws SQLException {
    try (var query =
        connection.prepareStatement(
            "select id, remote_id, level, observed from account"
                + " where application = ? and stranger = ? and id > ?"
                + " order by application, stranger, id limit ?")) {
      query.setString(1, application);
      query.setInt(4, AT_ONCE);
      each(query, false, kept);
      each(query, true, kept);
    }
  }

  /** In parts: the database holds the whole answer to a question. */
  private static void each(PreparedStatement query, boolean strangers, Kept kept)
      throws SQLException {
    long after = 0;
    int had;
    do {
      had = 0;
      query.setBoolean(2, strangers);
      query.setLong(3, after);
      try (var rows = query.executeQuery()) {
        while (rows.next()) {
          had++;
          after = rows.getLong(1);
          kept.account(
              after, rows.getString(2), Level.valueOf(rows.getString(3)), rows.getString(4));
        }
      }
    } while (had == AT_ONCE);
  }

  /** What an account looks like as it is written. */
  public static String written(ObservedAccount observed) {
    return Json.write(observed);
  }

  /** Accounts of an application in the order of their numbers, after the one given. */
  public Page<Account> list(
      StatelessSession session,
      String application,
      boolean unmatchedOnly,
      Reach reach,
      Long after,
      int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from AccountEntity where application = :application and id > :after"
                    + (unmatchedOnly
                        ? " and personId is null and leftAlone is null and level <> 'GONE'"
                        : "")
                    + within.within()
                    + (unmatchedOnly ? " order by application, stranger, id" : " order by id"),
                AccountEntity.class)
            .setParameter("application", application)
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit + 1);
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Accounts::account).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /**
   * How many accounts exist, are nobody's, and are not left alone, counted no further than a limit.
   *
   * @return more than the limit where there are more
   */
  public long countUnmatched(StatelessSession session, String application, int limit) {
    return session
        .createNativeQuery(
            "select count(*) from (select id from account"
                + " where application = :application and stranger = true limit :most)",
            Long.class)
        .setParameter("application", application)
        .setParameter("most", limit + 1)
        .getSingleResult();
  }

  /** Accounts by level, gone ones too. */
  public Map<Level, Long> counts(StatelessSession session, String application) {
    return session
        .createSelectionQuery(
            "select level, count(*) from AccountEntity where application = :application group by level",
            Object[].class)
        .setParameter("application", application)
        .stream()
        .collect(Collectors.toMap(row -> Level.valueOf((String) row[0]), row -> (Long) row[1]));
  }

  public void put(StatelessSession session, Account account) {
    session.upsert(row(account));
    Groups.keep(session, List.of(account));
  }

  /** Keeps accounts that are known by their numbers. */
  public void putAll(StatelessSession session, Collection<Account> known) {
    session.updateMultiple(known.stream().map(Accounts::row).toList());
    Groups.keep(session, known);
  }

  /** Keeps accounts that are new. */
  public void addAll(StatelessSession session, Collection<Account> made) {
    session.insertMultiple(made.stream().map(Accounts::row).toList());
    Groups.add(session, made);
  }

  private static AccountEntity row(Account account) {
    var row = new AccountEntity();
    row.id = account.id();
    row.application = account.application();
    row.remoteId = account.observed().id();
    row.personId = account.person() == null ? null : account.person().value();
    row.level = account.level().name();
    row.observed = Json.write(account.observed());
    row.grounds = Json.write(account.grounds());
    row.closing = account.closing();
    row.leftAlone = Json.write(account.leftAlone());
    row.stranger = account.isStranger();
    row.seenAt = account.seenAt();
    return row;
  }

  private static Account account(ResultSet row) throws SQLException {
    return new Account(
        row.getLong(1),
        row.getString(2),
        new PersonId(row.getLong(3)),
        Level.valueOf(row.getString(4)),
        Json.read(row.getString(5), ObservedAccount.class),
        Json.texts(row.getString(6)),
        row.getBoolean(7),
        Json.read(row.getString(8), LeftAlone.class),
        row.getObject(9, OffsetDateTime.class).toInstant());
  }

  private static Account account(AccountEntity row) {
    return new Account(
        row.id,
        row.application,
        row.personId == null ? null : new PersonId(row.personId),
        Level.valueOf(row.level),
        Json.read(row.observed, ObservedAccount.class),
        Json.texts(row.grounds),
        row.closing,
        Json.read(row.leftAlone, LeftAlone.class),
        row.seenAt);
  }
}
