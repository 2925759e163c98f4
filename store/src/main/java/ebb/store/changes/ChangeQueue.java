package ebb.store.changes;

import ebb.core.change.Change;
import ebb.core.change.ChangeState;
import ebb.core.problem.Problem;
import ebb.store.Among;
import ebb.store.Batch;
import ebb.store.Json;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.hibernate.StatelessSession;

/**
 * The queue that released changes form, one for each application. Written so that a change costs as
 * few statements as a batch allows.
 */
public final class ChangeQueue {
  /** In the place of how many others must come first: none, and it comes before all. */
  static final int URGENT = -1;

  private static final List<ChangeState> CLAIMABLE =
      List.of(ChangeState.CLAIMED, ChangeState.UNSURE, ChangeState.QUEUED);

  /** One question for all states, each answered by the first entry of the index. */
  private static final String ANY_DUE =
      CLAIMABLE.stream()
          .map(
              state ->
                  "(select 1 from change where application = :application and state = '%s'"
                          .formatted(state)
                      + " and open_needs = :needs and due <= :now"
                      + (state == ChangeState.CLAIMED ? " and lease_until < :now" : "")
                      + " limit 1)")
          .collect(Collectors.joining(" union all "));

  private static final String LEASE =
      "update change set state = 'CLAIMED', lease_until = ?, version = version + 1"
          + " where id = ? and state = ?";

  private static final String RECORD =
      "update change set account_id = ?, state = ?, due = ?, attempts = ?, problem = ?,"
          + " asked_at = ?, seen_at = ?, lease_until = null, version = version + 1 where id = ?";

  private static final String FREE =
      "update change set open_needs = open_needs - ?, version = version + 1 where id = ?";

  /** Ends all leases: whoever held them is known to have died. */
  public void endLeases(StatelessSession session) {
    session
        .createMutationQuery(
            "update ChangeEntity set leaseUntil = :epoch, version = version + 1"
                + " where state = 'CLAIMED'")
        .setParameter("epoch", Instant.EPOCH)
        .executeUpdate();
  }

  /**
   * How much of an application is in the queue.
   *
   * @param waiting for their turn, their next try, or what they need first
   */
  public record Counts(long waiting, long underWay) {}

  public Counts counts(StatelessSession session, String application) {
    return new Counts(
        InState.count(session, application, ChangeState.QUEUED)
            + InState.count(session, application, ChangeState.UNSURE),
        InState.count(session, application, ChangeState.CLAIMED));
  }

  /** Whether anything of an application could be claimed now. */
  boolean isAnyDue(StatelessSession session, String application, boolean urgent, Instant now) {
    return !session
        .createNativeQuery(ANY_DUE, Integer.class)
        .setParameter("application", application)
        .setParameter("needs", urgent ? URGENT : 0)
        .setParameter("now", now)
        .setMaxResults(1)
        .getResultList()
        .isEmpty();
  }

  /**
   * Changes that another worker or process cannot get until the lease ends, never two of one person
   * at the same time. A lease that ran out is a crash between call and record: such a change comes
   * back as one whose answer was lost.
   *
   * @param urgent whether to claim those that go ahead of all, or the others
   */
  public List<Change> claim(
      StatelessSession session,
      String application,
      boolean urgent,
      int max,
      Instant now,
      Instant leaseUntil) {
    alone(session, application);
    var chosen = new ArrayList<ChangeEntity>();
    for (var state : CLAIMABLE) {
      if (chosen.size() < max) {
        chosen.addAll(due(session, application, state, urgent, now, max - chosen.size()));
      }
    }
    if (chosen.isEmpty()) {
      return List.of();
    }
    chosen.sort(Comparator.comparing(row -> row.id));
    var busy = busy(session, application, chosen);
    chosen.removeIf(row -> !busy.add(row.personId));
    return lease(session, chosen, leaseUntil).stream()
        .map(ChangeQueue::asFound)
        .map(ChangeMapper::change)
        .toList();
  }

  private static ChangeEntity asFound(ChangeEntity row) {
    if (row.state.equals(ChangeState.CLAIMED.name())) {
      row.state = ChangeState.UNSURE.name();
    }
    return row;
  }

  /** Others who claim for the same application wait for the end of this transaction. */
  private static void alone(StatelessSession session, String application) {
    session
        .createNativeQuery(
            "select name from application where name = :name for update", String.class)
        .setParameter("name", application)
        .getResultList();
  }

  /** People one of whose changes somebody is carrying out: no more than are ever claimed ahead. */
  private static Set<Long> busy(
      StatelessSession session, String application, List<ChangeEntity> chosen) {
    var ids = chosen.stream().map(row -> row.id).collect(Collectors.toSet());
    return session
        .createSelectionQuery(
            "select id, personId from ChangeEntity"
                + " where application = :application and state = 'CLAIMED'",
            Object[].class)
        .setParameter("application", application)
        .stream()
        .filter(row -> !ids.contains((Long) row[0]))
        .map(row -> (Long) row[1])
        .collect(Collectors.toCollection(HashSet::new));
  }

  /**
   * @return without what somebody halted in the meantime
   */
  private static List<ChangeEntity> lease(
      StatelessSession session, List<ChangeEntity> chosen, Instant until) {
    var leased =
        Batch.execute(
            session,
            LEASE,
            chosen,
            (update, row) -> {
              setInstant(update, 1, until);
              update.setLong(2, row.id);
              update.setString(3, row.state);
            });
    return IntStream.range(0, leased.length)
        .filter(place -> leased[place] == 1)
        .mapToObj(chosen::get)
        .toList();
  }

  private static List<ChangeEntity> due(
      StatelessSession session,
      String application,
      ChangeState state,
      boolean urgent,
      Instant now,
      int max) {
    return session
        .createSelectionQuery(
            "from ChangeEntity where application = :application and state = :state"
                + " and openNeeds = :needs and due <= :now"
                + (state == ChangeState.CLAIMED ? " and leaseUntil < :now" : "")
                + " order by application, state, openNeeds, due, id",
            ChangeEntity.class)
        .setParameter("application", application)
        .setParameter("state", state.name())
        .setParameter("needs", urgent ? URGENT : 0)
        .setParameter("now", now)
        .setMaxResults(max)
        .list();
  }

  /** Records changes after their calls. Those that needed them may go on, or are blocked. */
  public void record(StatelessSession session, Collection<Change> changes) {
    Batch.execute(session, RECORD, changes, ChangeQueue::bind);
    var over = new ArrayList<Long>();
    for (var change : changes) {
      if (change.state().isDone() || change.state() == ChangeState.OVERTAKEN) {
        over.add(change.id());
      } else if (change.state() == ChangeState.REFUSED) {
        block(session, change);
      }
    }
    if (!over.isEmpty()) {
      free(session, over);
    }
  }

  private static void bind(PreparedStatement update, Change change) throws SQLException {
    update.setObject(1, change.account(), Types.BIGINT);
    update.setString(2, change.state().name());
    update.setObject(3, change.due().atOffset(ZoneOffset.UTC));
    update.setInt(4, change.attempts());
    update.setString(5, Json.write(change.problem()));
    setInstant(update, 6, change.askedAt());
    setInstant(update, 7, change.seenAt());
    update.setLong(8, change.id());
  }

  private static void setInstant(PreparedStatement statement, int at, Instant instant)
      throws SQLException {
    if (instant == null) {
      statement.setNull(at, Types.TIMESTAMP_WITH_TIMEZONE);
    } else {
      statement.setObject(at, instant.atOffset(ZoneOffset.UTC));
    }
  }

  private static void free(StatelessSession session, List<Long> over) {
    var waiting = new HashMap<Long, Integer>();
    Among.each(
        session,
        "select change_id from change_need where needs_id in (%s)",
        over,
        row -> waiting.merge(row.getLong(1), 1, Integer::sum));
    if (waiting.isEmpty()) {
      return;
    }
    Batch.execute(
        session,
        FREE,
        waiting.entrySet(),
        (update, one) -> {
          update.setInt(1, one.getValue());
          update.setLong(2, one.getKey());
        });
    session
        .createNativeMutationQuery("delete from change_need where needs_id in (:over)")
        .setParameterList("over", over)
        .executeUpdate();
  }

  private static void block(StatelessSession session, Change refused) {
    var why =
        Json.write(
            new Problem(
                "needed-change-refused",
                "Change %d must come first, and was refused.".formatted(refused.id()),
                refused.problem().what(),
                "Mend that one, then retry the set: both go on.",
                null));
    var open = List.of(refused.id());
    while (!open.isEmpty()) {
      var next =
          session
              .createNativeQuery(
                  "select n.change_id from change_need n join change c on c.id = n.change_id"
                      + " where n.needs_id in (:open) and c.state in ('QUEUED', 'UNSURE')",
                  Long.class)
              .setParameterList("open", open)
              .getResultList();
      if (!next.isEmpty()) {
        session
            .createMutationQuery(
                "update ChangeEntity set state = 'BLOCKED', problem = :why, version = version + 1"
                    + " where id in (:ids)")
            .setParameter("why", why)
            .setParameterList("ids", next)
            .executeUpdate();
      }
      open = next;
    }
  }
}
