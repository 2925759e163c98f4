package ebb.core.application;

import java.util.ArrayDeque;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Groups of one application that are members of groups: whoever is in the inner one is in the outer
 * one, too.
 *
 * @param inner group to the groups that are members of it; one without any may be missing
 */
public record Nesting(Map<String, Set<String>> inner) {
  public static final Nesting NONE = new Nesting(Map.of());

  /** A group and all that is within it, however deep; a ring ends where it began. */
  public SortedSet<String> within(String group) {
    var found = new TreeSet<>(Set.of(group));
    var open = new ArrayDeque<>(List.of(group));
    while (!open.isEmpty()) {
      for (var one : inner.getOrDefault(open.pop(), Set.of())) {
        if (found.add(one)) {
          open.add(one);
        }
      }
    }
    return found;
  }

  /**
   * Groups one is in by being in others, however deep.
   *
   * @param direct those one is a member of oneself; none of them is in the answer
   * @return group to one of the direct ones that leads there
   */
  public SortedMap<String, String> around(Collection<String> direct) {
    var through = new TreeMap<String, String>();
    for (var outer : inner.keySet()) {
      if (!direct.contains(outer)) {
        var within = within(outer);
        direct.stream()
            .filter(within::contains)
            .min(String::compareTo)
            .ifPresent(one -> through.put(outer, one));
      }
    }
    return through;
  }
}
