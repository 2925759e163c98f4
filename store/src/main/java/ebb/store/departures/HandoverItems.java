package ebb.store.departures;

import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.Carried;
import ebb.core.application.Carrier.NotCarried;
import ebb.core.application.Ownership.Item;
import ebb.core.handover.Piece;
import ebb.core.handover.Piece.State;
import ebb.core.handover.Sheet;
import ebb.store.Json;
import ebb.store.Page;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** What each account of a departure owned when stock was taken, item by item. */
public final class HandoverItems {
  private static final String OF = " where id.departureAccountId = :account";

  /**
   * Adds to what an account owned. What was handed over or left out already stays as it was then.
   *
   * @param items a page of them, each once
   * @param attempt in which they were seen
   * @return how many were not known
   */
  public int keep(StatelessSession session, long account, Collection<Item> items, int attempt) {
    var ids = items.stream().map(Item::id).toList();
    var known =
        session
            .createSelectionQuery(
                "from ItemEntity" + OF + " and id.itemId in :ids", ItemEntity.class)
            .setParameter("account", account)
            .setParameter("ids", ids)
            .stream()
            .collect(Collectors.toMap(row -> row.id.itemId(), row -> row));
    session.insertMultiple(
        items.stream()
            .filter(item -> !known.containsKey(item.id()))
            .map(item -> ItemEntity.of(account, item, attempt))
            .toList());
    items.stream()
        .filter(item -> known.containsKey(item.id()))
        .forEach(item -> session.update(known.get(item.id()).seenAgain(item, attempt)));
    return items.size() - known.size();
  }

  /** Those among some ids that are known. */
  public Set<String> known(StatelessSession session, long account, Collection<String> ids) {
    return new HashSet<>(
        session
            .createSelectionQuery(
                "select id.itemId from ItemEntity" + OF + " and id.itemId in :ids", String.class)
            .setParameter("account", account)
            .setParameter("ids", ids)
            .list());
  }

  /**
   * Whatever was not seen in an attempt is gone, unless it was handed over.
   *
   * @param kinds of which that can be said
   */
  public void markGone(
      StatelessSession session, long account, int attempt, Collection<String> kinds) {
    session
        .createMutationQuery(
            "update ItemEntity set state = 'GONE', problem = null"
                + OF
                + " and seenAttempt < :attempt and state in ('OWNED', 'FAILED') and kind in :kinds")
        .setParameter("account", account)
        .setParameter("attempt", attempt)
        .setParameter("kinds", kinds)
        .executeUpdate();
  }

  /** Those of some kinds that are still to be carried, at most max, in the order of their ids. */
  public List<Item> toCarry(
      StatelessSession session, long account, Collection<String> kinds, int max) {
    return session
        .createSelectionQuery(
            "from ItemEntity"
                + OF
                + " and state = 'OWNED' and transferable and kind in :kinds order by id.itemId",
            ItemEntity.class)
        .setParameter("account", account)
        .setParameter("kinds", kinds)
        .setMaxResults(max)
        .stream()
        .map(ItemEntity::toItem)
        .toList();
  }

  /** The kinds of which some can be handed over, and is not yet. */
  public List<String> kindsOwned(StatelessSession session, long account) {
    return session
        .createSelectionQuery(
            "select distinct kind from ItemEntity"
                + OF
                + " and state = 'OWNED' and transferable order by kind",
            String.class)
        .setParameter("account", account)
        .list();
  }

  /** Bytes of those of some kinds that are still to be carried. */
  public long bytesToCarry(StatelessSession session, long account, Collection<String> kinds) {
    return session
        .createSelectionQuery(
            "select coalesce(sum(bytes), 0) from ItemEntity"
                + OF
                + " and state = 'OWNED' and transferable and kind in :kinds",
            Long.class)
        .setParameter("account", account)
        .setParameter("kinds", kinds)
        .getSingleResult();
  }

  /**
   * Writes what became of some.
   *
   * @param recipient the name of who gets them
   */
  public void record(
      StatelessSession session, long account, Collection<Carried> carried, String recipient) {
    carried.forEach(
        one -> {
          switch (one) {
            case Arrived arrived -> arrived(session, account, arrived, recipient);
            case NotCarried(var item, var problem) ->
                session
                    .createMutationQuery(
                        "update ItemEntity set state = 'FAILED', problem = :problem"
                            + OF
                            + " and id.itemId = :item")
                    .setParameter("problem", Json.write(problem))
                    .setParameter("account", account)
                    .setParameter("item", item)
                    .executeUpdate();
          }
        });
  }

  private static void arrived(
      StatelessSession session, long account, Arrived arrived, String recipient) {
    session
        .createMutationQuery(
            "update ItemEntity set state = 'ARRIVED', problem = null, there = :there,"
                + " sha256 = :sha256, place = :place, recipient = :recipient"
                + OF
                + " and id.itemId = :item")
        .setParameter("there", arrived.there())
        .setParameter("sha256", arrived.sha256())
        .setParameter("place", arrived.where())
        .setParameter("recipient", recipient)
        .setParameter("account", account)
        .setParameter("item", arrived.item())
        .executeUpdate();
  }

  /** All of some kinds that was proven to have arrived by the application's own transfer. */
  public void allArrived(
      StatelessSession session, long account, Collection<String> kinds, String recipient) {
    session
        .createMutationQuery(
            "update ItemEntity set state = 'ARRIVED', recipient = :recipient"
                + OF
                + " and state = 'OWNED' and transferable and kind in :kinds")
        .setParameter("recipient", recipient)
        .setParameter("account", account)
        .setParameter("kinds", kinds)
        .executeUpdate();
  }

  /**
   * Leaves out what is not handed over yet.
   *
   * @param kind of which all is left out; null for one item
   * @param item null for all of the kind
   * @param by who, and why
   * @return how many
   */
  public int leaveOut(StatelessSession session, long account, String kind, String item, String by) {
    return session
        .createMutationQuery(
            "update ItemEntity set state = 'LEFT_OUT', leftOut = :by, problem = null"
                + OF
                + " and state in ('OWNED', 'FAILED')"
                + (item == null ? " and kind = :what" : " and id.itemId = :what"))
        .setParameter("by", by)
        .setParameter("account", account)
        .setParameter("what", item == null ? kind : item)
        .executeUpdate();
  }

  /** What can be handed over, is of other kinds than these, and is not with anybody else yet. */
  public List<Item> ofTransfer(
      StatelessSession session, long account, Collection<String> withoutKinds) {
    return session
        .createSelectionQuery(
            "from ItemEntity"
                + OF
                + " and transferable and state = 'OWNED' and kind not in :without"
                + " order by id.itemId",
            ItemEntity.class)
        .setParameter("account", account)
        .setParameter("without", withoutKinds)
        .stream()
        .map(ItemEntity::toItem)
        .toList();
  }

  /**
   * What was owned, a page of it.
   *
   * @param state null for any
   * @param after the id of the last of the page before; null to begin
   */
  public Page<Piece> page(
      StatelessSession session, long account, State state, String after, int limit) {
    var query =
        session
            .createSelectionQuery(
                "from ItemEntity"
                    + OF
                    + " and id.itemId > :after"
                    + (state == null ? "" : " and state = :state")
                    + " order by id.itemId",
                ItemEntity.class)
            .setParameter("account", account)
            .setParameter("after", after == null ? "" : after)
            .setMaxResults(limit + 1);
    if (state != null) {
      query.setParameter("state", state.name());
    }
    var rows = query.list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(ItemEntity::toPiece).toList(),
        rows.size() > limit ? shown.getLast().id.itemId() : null);
  }

  /** What there is by kind, whatever became of it; what was gone does not count. */
  public Sheet sheet(StatelessSession session, long account) {
    var lines = new TreeMap<String, Sheet.Line>();
    session
        .createSelectionQuery(
            "select kind, count(*), sum(bytes), sum(case when transferable then 0 else 1 end)"
                + " from ItemEntity"
                + OF
                + " and state <> 'GONE' group by kind",
            Object[].class)
        .setParameter("account", account)
        .stream()
        .forEach(
            row ->
                lines.put(
                    (String) row[0],
                    new Sheet.Line(number(row[1]), number(row[2]), number(row[3]))));
    return new Sheet(lines);
  }

  /** Whether somebody left something out. */
  public boolean isLeftOutBy(StatelessSession session, long account, String name) {
    return session
            .createSelectionQuery(
                "select count(*) from ItemEntity"
                    + OF
                    + " and state = 'LEFT_OUT' and locate(:by, leftOut) = 1",
                Long.class)
            .setParameter("account", account)
            .setParameter("by", name + ": ")
            .getSingleResult()
        > 0;
  }

  /** Empty if there is no such item. */
  public Optional<Piece> get(StatelessSession session, long account, String item) {
    return Optional.ofNullable(session.get(ItemEntity.class, new ItemEntity.Key(account, item)))
        .map(ItemEntity::toPiece);
  }

  public long count(StatelessSession session, long account, State state) {
    return session
        .createSelectionQuery(
            "select count(*) from ItemEntity" + OF + " and state = :state", Long.class)
        .setParameter("account", account)
        .setParameter("state", state.name())
        .getSingleResult();
  }

  /** How many there are of each kind in each state. */
  public SortedMap<String, Map<State, Long>> states(StatelessSession session, long account) {
    var all = new TreeMap<String, Map<State, Long>>();
    session
        .createSelectionQuery(
            "select kind, state, count(*) from ItemEntity" + OF + " group by kind, state",
            Object[].class)
        .setParameter("account", account)
        .stream()
        .forEach(
            row ->
                all.computeIfAbsent((String) row[0], _ -> new TreeMap<>())
                    .put(State.valueOf((String) row[1]), number(row[2])));
    return all;
  }

  private static long number(Object value) {
    return ((Number) value).longValue();
  }
}
