package ebb.core.departure;

import ebb.core.problem.Problem;
import java.time.LocalDate;
import java.util.Locale;

/**
 * What answers by itself whoever writes to somebody who has left.
 *
 * @param until the last day on which it is sent
 * @param problem why it could not be set or taken back; null otherwise
 */
public record AutomaticReply(State state, LocalDate until, Problem problem) {
  public enum State {
    WANTED,
    SET,
    TO_TAKE_BACK,
    TAKEN_BACK;

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
  }
}
