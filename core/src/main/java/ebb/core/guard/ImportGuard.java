package ebb.core.guard;

import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Stops an import that is too short or too strange to be true. */
public final class ImportGuard {
  /** Below this many people shares say nothing. */
  static final int SMALL = 20;

  /** A fifth of an organisation does not leave overnight; a cut-off file looks just so. */
  static final double LARGEST_MISSING = 0.20;

  /** Half of all people changed in one attribute looks like a column that has shifted. */
  static final double LARGEST_CHANGED = 0.50;

  /**
   * @param known people this source named before
   * @param missing those of them the file does not name, if it is declared complete
   * @param changed rows changed, by attribute
   */
  public record Reading(long known, long missing, Map<String, Long> changed) {}

  public static List<Problem> check(Reading reading) {
    var stops = new ArrayList<Problem>();
    if (reading.known() < SMALL) {
      return stops;
    }
    if (reading.missing() > LARGEST_MISSING * reading.known()) {
      stops.add(
          new Problem(
              "guard-file-too-short",
              "%d of %d people are missing from the file."
                  .formatted(reading.missing(), reading.known()),
              "More than a fifth missing at once is usually a file that was cut off.",
              "Ask for the whole file; if it is right, release it with a reason to let it pass.",
              null));
    }
    reading
        .changed()
        .forEach(
            (attribute, count) -> {
              if (count > LARGEST_CHANGED * reading.known()) {
                stops.add(
                    new Problem(
                        "guard-column-shifted",
                        "%s changes for %d of %d people."
                            .formatted(attribute, count, reading.known()),
                        "More than half changed in one attribute is usually a column that moved.",
                        "Compare the file's headings with the mapping; if it is right, release it"
                            + " with a reason to let it pass.",
                        null));
              }
            });
    return stops;
  }

  private ImportGuard() {}
}
