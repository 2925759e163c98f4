package ebb.store.departures;

import ebb.core.departure.AutomaticReply;
import ebb.core.departure.AutomaticReply.State;
import ebb.core.problem.Problem;
import ebb.store.Json;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** What is to answer for accounts of departures. One at most for each. */
public final class AutomaticReplies {
  private static final String DUE =
      " from ReplyEntity where state in ('WANTED', 'TO_TAKE_BACK') and nextTry <= :now";

  /** Wants one to be set; called again, what was set is to be set anew. */
  public void want(StatelessSession session, long account, LocalDate until) {
    session.upsert(row(account, new AutomaticReply(State.WANTED, until, null), Instant.EPOCH));
  }

  /** Whoever it was for is back; does nothing where there is none. */
  public void takeBack(StatelessSession session, long account) {
    session
        .createMutationQuery(
            "update ReplyEntity set state = 'TO_TAKE_BACK', problem = null, nextTry = :now"
                + " where account = :account and state in ('WANTED', 'SET')")
        .setParameter("now", Instant.EPOCH)
        .setParameter("account", account)
        .executeUpdate();
  }

  public Optional<AutomaticReply> of(StatelessSession session, long account) {
    return Optional.ofNullable(session.get(ReplyEntity.class, account))
        .map(AutomaticReplies::reply);
  }

  public long countDue(StatelessSession session, Instant now) {
    return session
        .createSelectionQuery("select count(*)" + DUE, Long.class)
        .setParameter("now", now)
        .getSingleResult();
  }

  /**
   * Accounts of departures whose reply is to be set or taken back; nobody else gets them before the
   * lease ends.
   */
  public List<Long> claim(StatelessSession session, Instant now, Instant leaseUntil, int max) {
    return session
        .createSelectionQuery("select account" + DUE + " order by nextTry, account", Long.class)
        .setParameter("now", now)
        .setMaxResults(max)
        .list()
        .stream()
        .filter(account -> take(session, account, now, leaseUntil))
        .toList();
  }

  private static boolean take(
      StatelessSession session, long account, Instant now, Instant leaseUntil) {
    return session
            .createMutationQuery(
                "update ReplyEntity set nextTry = :lease where account = :account and nextTry <= :now")
            .setParameter("lease", leaseUntil)
            .setParameter("account", account)
            .setParameter("now", now)
            .executeUpdate()
        == 1;
  }

  /**
   * Says how far it has come, if it is still what was being done.
   *
   * @param from what it was; where somebody wants something else by now, that stands
   */
  public void became(
      StatelessSession session, long account, State from, State to, Problem problem, Instant next) {
    session
        .createMutationQuery(
            "update ReplyEntity set state = :to, problem = :problem, nextTry = :next"
                + " where account = :account and state = :from")
        .setParameter("to", to.name())
        .setParameter("problem", Json.write(problem))
        .setParameter("next", next)
        .setParameter("account", account)
        .setParameter("from", from.name())
        .executeUpdate();
  }

  private static AutomaticReply reply(ReplyEntity row) {
    return new AutomaticReply(
        State.valueOf(row.state), row.until, Json.read(row.problem, Problem.class));
  }

  private static ReplyEntity row(long account, AutomaticReply reply, Instant next) {
    var row = new ReplyEntity();
    row.account = account;
    row.state = reply.state().name();
    row.until = reply.until();
    row.problem = Json.write(reply.problem());
    row.nextTry = next;
    return row;
  }
}
