package ebb.core.guard;

import java.util.Map;

/**
 * The limits in force.
 *
 * @param set by the word of the limit, or by {@code limit@name} for one source or application; what
 *     is not set is as usual
 */
public record Limits(Map<String, Double> set) {
  public static final Limits USUAL = new Limits(Map.of());

  public Limits {
    set = Map.copyOf(set);
  }

  /**
   * @param name of a source or an application
   */
  public double of(Limit limit, String name) {
    var here = set.get(key(limit, name));
    return here != null ? here : of(limit);
  }

  /** What holds where nothing is set for one source or application. */
  public double of(Limit limit) {
    return set.getOrDefault(key(limit, null), limit.usual());
  }

  /**
   * @param name null for all sources and applications
   */
  public static String key(Limit limit, String name) {
    return name == null ? limit.word() : limit.word() + "@" + name;
  }
}
