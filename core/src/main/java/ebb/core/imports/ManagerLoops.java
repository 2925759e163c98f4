package ebb.core.imports;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;

/** Finds people whose managers lead back to themselves. */
public final class ManagerLoops {
  /** No organisation has so many levels; beyond it a chain is taken for sound. */
  private static final int MOST_LEVELS = 100;

  /**
   * @param managers person to manager, as the file has them
   * @param known gives the managers of people the file says nothing new of
   * @return the people of the file who are in a loop
   */
  public static Set<Long> in(Map<Long, Long> managers, Function<Set<Long>, Map<Long, Long>> known) {
    var all = new HashMap<>(managers);
    complete(all, known);
    var loops = new TreeSet<Long>();
    for (var person : managers.keySet()) {
      if (leadsBack(person, all)) {
        loops.add(person);
      }
    }
    return loops;
  }

  /** Adds the managers above those of the file, level by level. */
  private static void complete(Map<Long, Long> all, Function<Set<Long>, Map<Long, Long>> known) {
    var asked = new HashSet<>(all.keySet());
    for (int level = 0; level < MOST_LEVELS; level++) {
      var unknown = new HashSet<>(all.values());
      unknown.removeAll(asked);
      if (unknown.isEmpty()) {
        return;
      }
      asked.addAll(unknown);
      all.putAll(known.apply(unknown));
    }
  }

  private static boolean leadsBack(Long person, Map<Long, Long> all) {
    var above = all.get(person);
    for (int level = 0; above != null && level < MOST_LEVELS; level++) {
      if (above.equals(person)) {
        return true;
      }
      above = all.get(above);
    }
    return false;
  }

  private ManagerLoops() {}
}
