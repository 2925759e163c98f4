package ebb.service.units;

import ebb.core.change.Cause;
import ebb.core.person.PersonId;
import ebb.core.unit.UnitTree;
import ebb.service.changes.Proposals;
import ebb.service.evaluation.Evaluator;
import ebb.store.Database;
import ebb.store.Json;
import ebb.store.imports.Units;
import ebb.store.people.PeopleLists;
import ebb.store.rules.Rules;
import ebb.store.settings.Settings;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Where a unit stands elsewhere than it did, rules that go by the tree mean others: what follows
 * for whoever belongs to it, or to a unit below, is shown, and waits.
 */
@Component
final class UnitWatch {
  private static final Logger LOG = LoggerFactory.getLogger(UnitWatch.class);
  private static final String KEPT = "units.tree";

  /** By which expressions read the tree. */
  private static final String UNITS = "units";

  private final Database database;
  private final Proposals proposals;
  private final Units units;
  private final PeopleLists lists;
  private final Rules rules;
  private final Settings settings;

  UnitWatch(
      Database database,
      Proposals proposals,
      Units units,
      PeopleLists lists,
      Rules rules,
      Settings settings) {
    this.database = database;
    this.proposals = proposals;
    this.units = units;
    this.lists = lists;
    this.rules = rules;
    this.settings = settings;
  }

  @Scheduled(fixedDelayString = "${ebb.units-looked-at-every:PT3S}")
  void look() {
    try {
      var now = database.read(units::tree);
      var before = database.read(session -> settings.get(session, KEPT));
      var tree = before.map(text -> Json.read(text, UnitTree.class)).orElse(UnitTree.EMPTY);
      if (!now.equals(tree)) {
        if (database.read(rules::inForce).stream().anyMatch(rule -> rule.reads(UNITS))) {
          follow(now.movedSince(tree));
        }
        database.writeAll(session -> settings.put(session, KEPT, Json.write(now)));
      }
    } catch (RuntimeException e) {
      LOG.error("The tree of units could not be looked at; this is tried again", e);
    }
  }

  private interface Next {
    List<PersonId> after(StatelessSession session, PersonId last);
  }

  private void addAll(List<List<PersonId>> parts, Next next) {
    var last = new PersonId(0);
    List<PersonId> part;
    do {
      var after = last;
      part = database.read(session -> next.after(session, after));
      if (!part.isEmpty()) {
        parts.add(part);
        last = part.getLast();
      }
    } while (part.size() == Evaluator.PART);
  }

  private void follow(Collection<String> moved) {
    var parts = new ArrayList<List<PersonId>>();
    addAll(parts, (session, after) -> lists.inUnits(session, moved, after, Evaluator.PART));
    // There are few, and one look at each costs less than a search through what they are in.
    addAll(parts, (session, after) -> lists.inFurtherUnits(session, moved, after, Evaluator.PART));
    proposals.differences(
        Cause.RULE,
        "units that stand elsewhere: " + String.join(", ", moved.stream().limit(3).toList()),
        "ebb",
        parts,
        _ -> true);
  }
}
