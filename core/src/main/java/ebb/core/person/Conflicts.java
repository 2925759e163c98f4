package ebb.core.person;

import java.util.Collection;
import java.util.HashSet;
import java.util.SortedMap;
import java.util.TreeMap;

/** Where sources say different things of one person. */
public final class Conflicts {
  /**
   * What each source says of the attributes they do not agree on. A hand that says something else
   * does so on purpose, and is left out.
   *
   * @param hand the name of the source that is operators' hands
   * @return attribute to source to value; empty if all agree
   */
  public static SortedMap<String, SortedMap<String, String>> in(
      Collection<Assertions> all, String hand) {
    var said = new TreeMap<String, SortedMap<String, String>>();
    for (var one : all) {
      if (!one.source().equals(hand)) {
        one.values()
            .forEach(
                (attribute, asserted) ->
                    said.computeIfAbsent(attribute, _ -> new TreeMap<>())
                        .put(one.source(), asserted.value()));
      }
    }
    said.values().removeIf(values -> new HashSet<>(values.values()).size() < 2);
    return said;
  }

  private Conflicts() {}
}
