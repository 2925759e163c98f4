package ebb.store.departures;

import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.Departure;
import ebb.core.handover.Sheet;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Among;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** Departures and their accounts. */
public final class Departures {
  public static final List<Class<?>> ENTITIES =
      List.of(
          DepartureEntity.class,
          DepartureAccountEntity.class,
          ItemEntity.class,
          ReplyEntity.class,
          SuccessorEntity.class);

  public long number(StatelessSession session) {
    return Numbers.next(session, "departure_seq");
  }

  public long accountNumber(StatelessSession session) {
    return Numbers.next(session, "departure_account_seq");
  }

  public void insert(StatelessSession session, Departure departure) {
    session.insert(row(departure, departure.version()));
  }

  public void update(StatelessSession session, Departure departure) {
    session.update(row(departure, departure.version() + 1));
  }

  public Optional<Departure> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(DepartureEntity.class, id)).map(Departures::departure);
  }

  /** Departures of a person that are under way. */
  public List<Departure> running(StatelessSession session, PersonId person) {
    return session
        .createSelectionQuery(
            "from DepartureEntity where personId = :person and state = 'RUNNING' order by id",
            DepartureEntity.class)
        .setParameter("person", person.value())
        .stream()
        .map(Departures::departure)
        .toList();
  }

  /**
   * Departures of people that ended before an instant, in the order in which they began, of those
   * who have no account any more but stripped ones, and were not forgotten since.
   */
  public List<Departure> ended(StatelessSession session, Instant before, long after, int limit) {
    return session
        .createNativeQuery(
            "select d.* from departure d left join forgotten f on f.person_id = d.person_id"
                + " where d.state = 'DONE' and d.kind = 'DEPARTURE' and d.ended_at < :before"
                + " and d.id > :after and (f.at is null or f.at < d.ended_at)"
                + " and not exists (select 1 from account a where a.person_id = d.person_id"
                + " and a.level <> 'GONE' and a.stripped_at is null)"
                + " order by d.id limit :limit",
            DepartureEntity.class)
        .setParameter("before", before.atOffset(ZoneOffset.UTC))
        .setParameter("after", after)
        .setParameter("limit", limit)
        .stream()
        .map(Departures::departure)
        .toList();
  }

  /**
   * In the order in which they began.
   *
   * @param state null for all
   */
  public Page<Departure> list(
      StatelessSession session, Departure.State state, Reach reach, Long after, int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from DepartureEntity where id > :after"
                    + (state == null ? "" : " and state = :state")
                    + within.within()
                    + " order by id",
                DepartureEntity.class)
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit + 1);
    if (state != null) {
      query.setParameter("state", state.name());
    }
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Departures::departure).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  public void insertAccount(StatelessSession session, DepartureAccount account) {
    session.insert(row(account, 0));
  }

  /**
   * Writes an account of a departure if it is still at its version.
   *
   * @return false if somebody else wrote it meanwhile
   */
  public boolean updateAccount(StatelessSession session, DepartureAccount account) {
    var raised =
        session
            .createMutationQuery(
                "update DepartureAccountEntity set version = version + 1"
                    + " where id = :id and version = :version")
            .setParameter("id", account.id())
            .setParameter("version", account.version())
            .executeUpdate();
    if (raised == 1) {
      session.update(row(account, account.version() + 1));
    }
    return raised == 1;
  }

  public Optional<DepartureAccount> account(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(DepartureAccountEntity.class, id))
        .map(Departures::account);
  }

  /** The part of a departure under way that concerns an account; empty if there is none. */
  public Optional<DepartureAccount> ofAccount(StatelessSession session, long account) {
    return session
        .createSelectionQuery(
            "from DepartureAccountEntity a where a.accountId = :account and a.departureId in"
                + " (select d.id from DepartureEntity d where d.state = 'RUNNING') order by a.id",
            DepartureAccountEntity.class)
        .setParameter("account", account)
        .setMaxResults(1)
        .uniqueResultOptional()
        .map(Departures::account);
  }

  /** The departures under way to which accounts belong, by account. */
  public Map<Long, Long> underWay(StatelessSession session, Collection<Long> accounts) {
    var found = new HashMap<Long, Long>();
    Among.each(
        session,
        "select a.account_id, d.id from departure_account a join departure d"
            + " on d.id = a.departure_id and d.state = 'RUNNING' where a.account_id in (%s)",
        accounts,
        row -> found.put(row.getLong(1), row.getLong(2)));
    return found;
  }

  /** How many departures are under way. */
  public long countRunning(StatelessSession session) {
    return session
        .createSelectionQuery(
            "select count(*) from DepartureEntity where state = 'RUNNING'", Long.class)
        .getSingleResult();
  }

  /** How many accounts of departures are due, being looked at, or being handed over. */
  public long countToLookAt(StatelessSession session, Instant now) {
    return session
        .createSelectionQuery(
            "select count(*) from DepartureAccountEntity a where a.endAsked = false and a.stays = false"
                + " and (a.nextLook <= :now or a.claimed or a.handover = 'RUNNING') and a.departureId in"
                + " (select d.id from DepartureEntity d where d.state = 'RUNNING')",
            Long.class)
        .setParameter("now", now)
        .getSingleResult();
  }

  /** By application, so that they stand alike whichever answered first. */
  public List<DepartureAccount> accounts(StatelessSession session, long departure) {
    return session
        .createSelectionQuery(
            "from DepartureAccountEntity where departureId = :departure order by application, id",
            DepartureAccountEntity.class)
        .setParameter("departure", departure)
        .stream()
        .map(Departures::account)
        .toList();
  }

  /**
   * Claims accounts of departures under way that are to be looked at, until the lease ends.
   *
   * @return at most max; no other process gets them meanwhile
   */
  public List<DepartureAccount> claim(
      StatelessSession session, Instant now, Instant leaseUntil, int max) {
    return session
        .createSelectionQuery(
            "from DepartureAccountEntity a where a.nextLook <= :now and a.endAsked = false and a.stays = false"
                + " and a.departureId in (select d.id from DepartureEntity d where d.state = 'RUNNING')"
                + " order by a.nextLook, a.id",
            DepartureAccountEntity.class)
        .setParameter("now", now)
        .setMaxResults(max)
        .list()
        .stream()
        .map(row -> account(row).lookAgain(leaseUntil))
        .flatMap(account -> keepClaimed(session, account).stream())
        .toList();
  }

  /**
   * Keeps an account of a departure and goes on holding it.
   *
   * @return as it is now; empty if somebody else wrote it meanwhile
   */
  public Optional<DepartureAccount> keepClaimed(
      StatelessSession session, DepartureAccount account) {
    if (!updateAccount(session, account)) {
      return Optional.empty();
    }
    markClaimed(session, account.id());
    return account(session, account.id());
  }

  private static void markClaimed(StatelessSession session, long id) {
    session
        .createMutationQuery("update DepartureAccountEntity set claimed = true where id = :id")
        .setParameter("id", id)
        .executeUpdate();
  }

  /** Ends all leases: whoever held them is known to have died. */
  public void endLeases(StatelessSession session) {
    session
        .createMutationQuery(
            "update DepartureAccountEntity"
                + " set nextLook = :epoch, claimed = false, version = version + 1"
                + " where endAsked = false and stays = false")
        .setParameter("epoch", Instant.EPOCH)
        .executeUpdate();
  }

  /** Has all accounts of departures looked at soon: the day has changed, or a hold. */
  public void lookSoon(StatelessSession session) {
    session
        .createMutationQuery(
            "update DepartureAccountEntity set nextLook = :epoch, version = version + 1"
                + " where endAsked = false and stays = false and handover <> 'RUNNING'")
        .setParameter("epoch", Instant.EPOCH)
        .executeUpdate();
  }

  /** Has one account looked at at once, as it was changed just now. */
  public void lookSoon(StatelessSession session, long account) {
    session
        .createMutationQuery(
            "update DepartureAccountEntity set nextLook = :epoch, version = version + 1"
                + " where accountId = :account and endAsked = false and stays = false"
                + " and handover <> 'RUNNING'")
        .setParameter("epoch", Instant.EPOCH)
        .setParameter("account", account)
        .executeUpdate();
  }

  private static Departure departure(DepartureEntity row) {
    return new Departure(
        row.id,
        new PersonId(row.personId),
        Departure.Kind.valueOf(row.kind),
        Departure.State.valueOf(row.state),
        row.lastDay,
        row.handOverFrom,
        row.recipientId == null ? null : new PersonId(row.recipientId),
        row.reason,
        row.asksReturn,
        row.notReturning,
        row.paused,
        row.accepted,
        row.declined,
        row.startedAt,
        row.endedAt,
        row.version);
  }

  private static DepartureEntity row(Departure departure, long version) {
    var row = new DepartureEntity();
    row.id = departure.id();
    row.personId = departure.person().value();
    row.kind = departure.kind().name();
    row.state = departure.state().name();
    row.lastDay = departure.lastDay();
    row.handOverFrom = departure.handOverFrom();
    row.asksReturn = departure.asksReturn();
    row.notReturning = departure.notReturning();
    row.paused = departure.paused();
    row.accepted = departure.accepted();
    row.declined = departure.declined();
    row.recipientId = departure.recipient() == null ? null : departure.recipient().value();
    row.reason = departure.reason();
    row.startedAt = departure.startedAt();
    row.endedAt = departure.endedAt();
    row.version = version;
    return row;
  }

  private static DepartureAccount account(DepartureAccountEntity row) {
    return new DepartureAccount(
        row.id,
        row.departureId,
        row.accountId,
        row.application,
        row.deleteFrom,
        Json.read(row.sheet, Sheet.class),
        Json.read(row.references, new TypeReference<List<Reference>>() {}),
        Handover.valueOf(row.handover),
        row.transferId,
        row.attempt,
        row.provenAt,
        Json.read(row.problem, Problem.class),
        Json.texts(row.waivers),
        row.endAsked,
        row.stays,
        row.restorableUntil,
        Json.read(row.shutSince, new TypeReference<Map<String, LocalDate>>() {}),
        row.nextLook,
        row.version);
  }

  private static DepartureAccountEntity row(DepartureAccount account, long version) {
    var row = new DepartureAccountEntity();
    row.id = account.id();
    row.departureId = account.departure();
    row.accountId = account.account();
    row.application = account.application();
    row.deleteFrom = account.deleteFrom();
    row.sheet = Json.write(account.sheet());
    row.references = Json.write(account.references());
    row.handover = account.handover().name();
    row.transferId = account.transfer();
    row.attempt = account.attempt();
    row.provenAt = account.provenAt();
    row.problem = Json.write(account.problem());
    row.waivers = Json.write(account.waivers());
    row.endAsked = account.endAsked();
    row.stays = account.stays();
    row.restorableUntil = account.restorableUntil();
    row.shutSince = Json.write(account.shutSince());
    row.nextLook = account.nextLook();
    row.version = version;
    return row;
  }
}
