package ebb.core.person;

import java.util.Collection;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.ToIntFunction;

/**
 * What becomes of a value when the source that has authority over it says nothing any more.
 *
 * @param to the source that would have it then; null where nobody says anything of it
 * @param isOther whether the value would be another
 */
public record Fallback(String to, boolean isOther) {
  /** By attribute, of those over which the source has authority now. */
  public static SortedMap<String, Fallback> without(
      String source, PersonId id, Collection<Assertions> all, ToIntFunction<String> rank) {
    var now = Person.resolve(id, all, rank);
    var then =
        Person.resolve(id, all.stream().filter(one -> !one.source().equals(source)).toList(), rank);
    var fallbacks = new TreeMap<String, Fallback>();
    now.attributes()
        .forEach(
            (attribute, held) -> {
              if (held.source().equals(source)) {
                var next = then.attributes().get(attribute);
                fallbacks.put(
                    attribute,
                    next == null
                        ? new Fallback(null, true)
                        : new Fallback(next.source(), !next.value().equals(held.value())));
              }
            });
    return fallbacks;
  }
}
