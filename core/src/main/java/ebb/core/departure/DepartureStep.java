package ebb.core.departure;

import java.time.LocalDate;
import java.util.Locale;

/**
 * A step of a departure, for all its accounts together.
 *
 * @param name stable: last day, off, ways in, return, stock, handover, references, waiting,
 *     restore, removal
 * @param day when it is due, or was; null where it comes as soon as it can
 * @param words what was done, or what it waits for
 */
public record DepartureStep(String name, State state, LocalDate day, String words) {
  public enum State {
    DONE,
    /** It goes on by itself. */
    UNDER_WAY,
    /** It needs somebody. */
    WAITS,
    /** Its day lies ahead, or a step before it is open. */
    AHEAD;

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
  }
}
