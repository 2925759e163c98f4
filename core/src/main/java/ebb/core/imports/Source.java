package ebb.core.imports;

import ebb.core.problem.Problem;
import ebb.core.problem.Where;

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

  /** Of what comes in by files and feeds, unless it is said otherwise. */
  public static final int USUAL_RANK = 100;

  /** What operators enter themselves. It outranks every feed until the override is taken away. */
  public static final String HAND = "hand";

  public static boolean isName(String name) {
    return name != null && name.matches("[a-z][a-z0-9-]{0,58}") && !name.equals(HAND);
  }

  public static Problem nameInvalid(String name) {
    return new Problem(
        "source-invalid",
        "%s is no name for a source.".formatted(name == null ? "Nothing" : name),
        "Small letters, digits and hyphens are taken; hand is what operators enter themselves.",
        "Call it by where it comes from, as in hr or contractors.",
        Where.field("source"));
  }
}
