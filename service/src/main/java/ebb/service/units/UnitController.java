package ebb.service.units;

import ebb.api.Listing;
import ebb.api.UnitView;
import ebb.core.operator.Act;
import ebb.core.unit.UnitTree;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.imports.Units;
import ebb.store.people.PeopleLists;
import java.security.Principal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/units")
class UnitController {
  private final Database database;
  private final BusinessClock clock;
  private final Units units;
  private final PeopleLists lists;

  UnitController(Database database, BusinessClock clock, Units units, PeopleLists lists) {
    this.database = database;
    this.clock = clock;
    this.units = units;
    this.lists = lists;
  }

  /** The tree, with how many people belong to each unit. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<UnitView> list(Principal principal) {
    var reach = Callers.of(principal).reach();
    return database.read(
        session -> {
          var walk =
              new Walk(units.tree(session), lists.countByUnit(session, reach, clock.today()));
          return Listing.whole(walk.all());
        });
  }

  private static final class Walk {
    private final UnitTree tree;
    private final Map<String, Long> counts;
    private final List<UnitView> all = new ArrayList<>();
    private final Set<String> seen = new HashSet<>();

    Walk(UnitTree tree, Map<String, Long> counts) {
      this.tree = tree;
      this.counts = counts;
    }

    List<UnitView> all() {
      tree.below(null).forEach(unit -> down(unit, null, 0));
      // A ring has no top, and what only people name stands in no tree.
      tree.parents().keySet().forEach(unit -> down(unit, tree.parents().get(unit), 0));
      new TreeSet<>(counts.keySet()).forEach(unit -> down(unit, null, 0));
      return all;
    }

    private void down(String unit, String parent, int level) {
      if (seen.add(unit)) {
        all.add(
            new UnitView(
                unit,
                level,
                parent,
                tree.parents().containsKey(unit),
                counts.getOrDefault(unit, 0L)));
        tree.below(unit).forEach(below -> down(below, unit, level + 1));
      }
    }
  }
}
