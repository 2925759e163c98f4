package ebb.store.rules;

import ebb.core.rule.Rule;
import ebb.core.rule.RuleEdit;
import ebb.store.Json;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.hibernate.StatelessSession;

/** The rules in force, and edits of them that wait with the set that shows what follows. */
public final class Rules {
  public static final List<Class<?>> ENTITIES = List.of(RuleEntity.class, RuleEditEntity.class);

  private static final String WAITING =
      " and (select s.state from ChangeSetEntity s where s.id = e.id.set)"
          + " in ('DRAFT', 'SHOWN', 'RELEASING')";

  /** A rule in force, with its version. */
  public record Stored(Rule rule, long version) {}

  /** All that are in force, by name. */
  public List<Stored> list(StatelessSession session) {
    return session.createSelectionQuery("from RuleEntity order by name", RuleEntity.class).stream()
        .map(Rules::stored)
        .toList();
  }

  /** All that are in force, by name. */
  public List<Rule> inForce(StatelessSession session) {
    return list(session).stream().map(Stored::rule).toList();
  }

  /**
   * Rules with what a set makes of them, and without.
   *
   * @param without as if the set had never made anything of them
   */
  public record Sides(List<Rule> with, List<Rule> without) {
    public boolean differ() {
      return !with.equals(without);
    }
  }

  /**
   * @param set null for none: both sides are the rules in force
   */
  public Sides sides(StatelessSession session, Long set) {
    var inForce = inForce(session);
    var edits = set == null ? List.<RuleEditEntity>of() : of(session, set);
    if (edits.isEmpty()) {
      return new Sides(inForce, inForce);
    }
    return new Sides(
        RuleEdit.in(inForce, edits.stream().filter(row -> !row.inForce).map(Rules::edit).toList()),
        RuleEdit.in(
            inForce, edits.stream().filter(row -> row.inForce).map(Rules::undone).toList()));
  }

  public Optional<Stored> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(RuleEntity.class, name)).map(Rules::stored);
  }

  /** Edits come into force with this set. */
  public void propose(StatelessSession session, long set, Collection<RuleEdit> edits) {
    for (var edit : edits) {
      var row = new RuleEditEntity();
      row.id = new RuleEditEntity.Key(set, edit.name());
      row.body = edit.rule() == null ? null : Json.write(edit.rule());
      row.version = edit.version();
      row.expected = edit.expected();
      session.insert(row);
    }
  }

  /** What a set makes of rules, whether it was released or not. */
  public List<RuleEdit> edits(StatelessSession session, long set) {
    return of(session, set).stream().map(Rules::edit).toList();
  }

  /** What a rule was before a set; for sets that are not released, what it is. */
  public Optional<Rule> before(StatelessSession session, long set, String name) {
    var row = session.get(RuleEditEntity.class, new RuleEditEntity.Key(set, name));
    return row != null && row.inForce
        ? Optional.ofNullable(rule(row.before))
        : get(session, name).map(Stored::rule);
  }

  /** The set with which an edit of a rule waits; empty if none does. */
  public Optional<Long> waitingIn(StatelessSession session, String name) {
    return session
        .createSelectionQuery(
            "select e.id.set from RuleEditEntity e where e.id.name = :name and e.inForce = false"
                + WAITING,
            Long.class)
        .setParameter("name", name)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** The sets with which edits wait, by the name of the rule. */
  public SortedMap<String, Long> waiting(StatelessSession session) {
    var waiting = new TreeMap<String, Long>();
    session
        .createSelectionQuery(
            "from RuleEditEntity e where e.inForce = false" + WAITING, RuleEditEntity.class)
        .getResultStream()
        .forEach(row -> waiting.put(row.id.name(), row.id.set()));
    return waiting;
  }

  /**
   * Puts what a set makes of rules in force.
   *
   * @return the rules that were edited since; if there are any, nothing was put in force
   */
  public List<String> takeIn(StatelessSession session, long set) {
    var open = of(session, set).stream().filter(row -> !row.inForce).toList();
    var edited =
        open.stream()
            .filter(row -> version(session, row.id.name()) != row.version)
            .map(row -> row.id.name())
            .toList();
    if (edited.isEmpty()) {
      open.forEach(row -> takeIn(session, row));
    }
    return edited;
  }

  private static void takeIn(StatelessSession session, RuleEditEntity edit) {
    var now = session.get(RuleEntity.class, edit.id.name());
    edit.before = now == null ? null : now.body;
    edit.inForce = true;
    session.update(edit);
    if (edit.body == null) {
      if (now != null) {
        session.delete(now);
      }
    } else {
      var row = new RuleEntity();
      row.name = edit.id.name();
      row.application = Json.read(edit.body, Rule.class).application();
      row.body = edit.body;
      row.version = edit.version + 1;
      session.upsert(row);
    }
  }

  /** What would make the rules of a set again what they were; those edited since stay. */
  public List<RuleEdit> reverting(StatelessSession session, long set) {
    var edits = new ArrayList<RuleEdit>();
    for (var row : of(session, set)) {
      var now = Optional.ofNullable(session.get(RuleEntity.class, row.id.name()));
      if (row.inForce && Objects.equals(now.map(one -> one.body).orElse(null), row.body)) {
        var undone = undone(row);
        edits.add(
            new RuleEdit(
                undone.name(), undone.rule(), now.map(one -> one.version).orElse(0L), null));
      }
    }
    return edits;
  }

  /** Sets whose edits are in force, after which not everyone was looked at yet. */
  public List<Long> unsettled(StatelessSession session) {
    return session
        .createSelectionQuery(
            "select distinct e.id.set from RuleEditEntity e"
                + " where e.inForce = true and e.settled = false",
            Long.class)
        .list();
  }

  /** Sets that show no effect of their edits yet. */
  public List<Long> unshown(StatelessSession session) {
    return session
        .createSelectionQuery(
            "select distinct e.id.set from RuleEditEntity e where"
                + " (select s.state from ChangeSetEntity s where s.id = e.id.set) = 'DRAFT'",
            Long.class)
        .list();
  }

  /** Everyone was looked at since the edits of a set are in force. */
  public void settled(StatelessSession session, long set) {
    session
        .createMutationQuery("update RuleEditEntity e set e.settled = true where e.id.set = :set")
        .setParameter("set", set)
        .executeUpdate();
  }

  private static long version(StatelessSession session, String name) {
    var row = session.get(RuleEntity.class, name);
    return row == null ? 0 : row.version;
  }

  private static List<RuleEditEntity> of(StatelessSession session, long set) {
    return session
        .createSelectionQuery(
            "from RuleEditEntity e where e.id.set = :set order by e.id.name", RuleEditEntity.class)
        .setParameter("set", set)
        .list();
  }

  private static RuleEdit edit(RuleEditEntity row) {
    return new RuleEdit(row.id.name(), rule(row.body), row.version, row.expected);
  }

  private static RuleEdit undone(RuleEditEntity row) {
    return new RuleEdit(row.id.name(), rule(row.before), row.version, null);
  }

  private static Rule rule(String body) {
    return body == null ? null : Json.read(body, Rule.class);
  }

  private static Stored stored(RuleEntity row) {
    return new Stored(Json.read(row.body, Rule.class), row.version);
  }
}
