package ebb.core.imports;

/**
 * Where assertions come from.
 *
 * @param rank higher wins
 * @param mapping null for a hand
 * @param version grows with every edit; 0 for one that is new
 */
public record Source(String name, int rank, Kind kind, Mapping mapping, long version) {
  public enum Kind {
    HAND,
    FILE
  }

  /** What operators enter themselves. It outranks every feed until the override is taken away. */
  public static final String HAND = "hand";
}
