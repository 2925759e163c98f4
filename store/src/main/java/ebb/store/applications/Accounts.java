package ebb.store.applications;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.change.Finding;
import ebb.core.imports.Print;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Among;
import ebb.store.Batch;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** Accounts in all applications, as they were last seen. */
public final class Accounts {
  private static final int AT_ONCE = 1_000;
  private static final String NONE = "NONE";

  private static final String PLACE =
      "update account set person_id = ?, likely = ?, finding = ? where id = ?"
          + " and person_id is null and left_alone is null and level <> 'GONE'"
          + " and print_high = ? and print_low = ?";

  private static final TypeReference<List<Likely>> LIKELY = new TypeReference<>() {};

  /** Every word an account may have in that place. */
  private static final List<String> FINDINGS =
      Stream.concat(Stream.of(NONE), Stream.of(Finding.values()).map(Finding::name)).toList();

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
        "select id, application, person_id, level, observed, grounds, closing, left_alone, seen_at,"
            + " stripped_at from account where person_id in (%s)",
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
     * @param print of what was last seen of it; null if it has none yet
     */
    void account(long id, String remoteId, Level level, Print print);
  }

  /** What is kept of all accounts of an application, as it lies. */
  public void each(StatelessSession session, String application, Kept kept) {
    session.doWork(connection -> each(connection, application, kept));
  }

  private static void each(Connection connection, String application, Kept kept)
      throws SQLException {
    try (var query =
        connection.prepareStatement(
            "select id, remote_id, level, print_high, print_low from account"
                + " where application = ? and finding = ? and id > ?"
                + " order by application, finding, id limit ?")) {
      query.setString(1, application);
      query.setInt(4, AT_ONCE);
      for (var finding : FINDINGS) {
        each(query, finding, kept);
      }
    }
  }

  /** In parts: the database holds the whole answer to a question. */
  private static void each(PreparedStatement query, String finding, Kept kept) throws SQLException {
    long after = 0;
    int had;
    do {
      had = 0;
      query.setString(2, finding);
      query.setLong(3, after);
      try (var rows = query.executeQuery()) {
        while (rows.next()) {
          had++;
          after = rows.getLong(1);
          var high = rows.getLong(4);
          var print = rows.wasNull() ? null : new Print(high, rows.getLong(5));
          kept.account(after, rows.getString(2), Level.valueOf(rows.getString(3)), print);
        }
      }
    } while (had == AT_ONCE);
  }

  /**
   * Accounts of an application in the order of their numbers, after the one given.
   *
   * @param finding only those of which this is found; null for all
   */
  public Page<Account> list(
      StatelessSession session,
      String application,
      Finding finding,
      Reach reach,
      Long after,
      int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from AccountEntity where application = :application and id > :after"
                    + (finding == null ? "" : " and finding = '" + finding + "'")
                    + within.within()
                    + (finding == null ? " order by id" : " order by application, finding, id"),
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

  /** Suspended accounts of an application in the order of their numbers, after the one given. */
  public Page<Account> suspended(
      StatelessSession session, String application, Reach reach, Long after, int limit) {
    var within = ReachClause.on("personId", reach);
    var rows =
        within
            .fill(
                session
                    .createSelectionQuery(
                        "from AccountEntity where application = :application"
                            + " and level = 'SUSPENDED' and id > :after"
                            + within.within()
                            + " order by id",
                        AccountEntity.class)
                    .setParameter("application", application)
                    .setParameter("after", after == null ? 0L : after)
                    .setMaxResults(limit + 1))
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Accounts::account).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /**
   * How many accounts of a kind are found, counted no further than a limit.
   *
   * @return more than the limit where there are more
   */
  public long count(StatelessSession session, String application, Finding finding, int limit) {
    return session
        .createNativeQuery(
            "select count(*) from (select id from account"
                + " where application = :application and finding = :finding limit :most)",
            Long.class)
        .setParameter("application", application)
        .setParameter("finding", finding.name())
        .setParameter("most", limit + 1)
        .getSingleResult();
  }

  /** Remembers that an account is not this person's, whatever it says or is like. */
  public void keepApart(StatelessSession session, Account account, PersonId person) {
    session
        .createNativeMutationQuery(
            "merge into account_apart (application, remote_id, person_id)"
                + " key (application, remote_id, person_id)"
                + " values (:application, :account, :person)")
        .setParameter("application", account.application())
        .setParameter("account", account.observed().id())
        .setParameter("person", person.value())
        .executeUpdate();
  }

  public void forgetApart(StatelessSession session, Account account, PersonId person) {
    session
        .createNativeMutationQuery(
            "delete from account_apart where application = :application"
                + " and remote_id = :account and person_id = :person")
        .setParameter("application", account.application())
        .setParameter("account", account.observed().id())
        .setParameter("person", person.value())
        .executeUpdate();
  }

  /**
   * Whose accounts of an application are not, by its own ids; those of which nothing is said are
   * left out.
   */
  public Map<String, Set<PersonId>> apart(
      StatelessSession session, String application, Collection<String> ids) {
    return session.doReturningWork(connection -> apart(connection, application, ids));
  }

  private static Map<String, Set<PersonId>> apart(
      Connection connection, String application, Collection<String> ids) throws SQLException {
    var apart = new HashMap<String, Set<PersonId>>();
    try (var any =
            connection.prepareStatement(
                "select person_id from account_apart where application = ? limit 1");
        var query =
            connection.prepareStatement(
                "select person_id from account_apart where application = ? and remote_id = ?")) {
      any.setString(1, application);
      try (var found = any.executeQuery()) {
        if (!found.next()) {
          return apart;
        }
      }
      query.setString(1, application);
      for (var id : ids) {
        query.setString(2, id);
        try (var found = query.executeQuery()) {
          while (found.next()) {
            apart.computeIfAbsent(id, _ -> new HashSet<>()).add(new PersonId(found.getLong(1)));
          }
        }
      }
    }
    return apart;
  }

  /** The next accounts of nobody of one kind, in the order of their numbers. */
  public List<Account> next(
      StatelessSession session, String application, Finding finding, long after, int limit) {
    return list(session, application, finding, Reach.EVERYBODY, after, limit).items();
  }

  /** How many seats of each kind accounts take that are suspended. */
  public Map<String, Long> seatsOfSuspended(StatelessSession session, String application) {
    var taken = new HashMap<String, Long>();
    try (var rows =
        session
            .createSelectionQuery(
                "from AccountEntity where application = :application and level = 'SUSPENDED'",
                AccountEntity.class)
            .setParameter("application", application)
            .getResultStream()) {
      rows.forEach(
          row -> account(row).observed().seats().forEach(seat -> taken.merge(seat, 1L, Long::sum)));
    }
    return taken;
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

  /**
   * Keeps whose accounts of nobody are, or may be. Those that somebody decided about meanwhile, or
   * that look different by now, stay as they are.
   */
  public void place(StatelessSession session, Collection<Account> placed) {
    var press = new AccountPress();
    Batch.execute(session, PLACE, placed, (update, account) -> bind(update, account, press));
  }

  private static void bind(PreparedStatement update, Account account, AccountPress press)
      throws SQLException {
    var print = press.of(account.observed());
    update.setObject(1, account.person() == null ? null : account.person().value());
    update.setString(2, Json.write(account.likely()));
    update.setString(3, account.finding().map(Finding::name).orElse(NONE));
    update.setLong(4, account.id());
    update.setLong(5, print.high());
    update.setLong(6, print.low());
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
    var print = new AccountPress().of(account.observed());
    row.printHigh = print.high();
    row.printLow = print.low();
    row.grounds = Json.write(account.grounds());
    row.closing = account.closing();
    row.leftAlone = Json.write(account.leftAlone());
    row.strippedAt = account.strippedAt();
    row.likely = Json.write(account.likely());
    row.finding = account.finding().map(Finding::name).orElse(NONE);
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
        instant(row, 10),
        null,
        instant(row, 9));
  }

  private static Instant instant(ResultSet row, int column) throws SQLException {
    var at = row.getObject(column, OffsetDateTime.class);
    return at == null ? null : at.toInstant();
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
        row.strippedAt,
        Json.read(row.likely, LIKELY),
        row.seenAt);
  }
}
