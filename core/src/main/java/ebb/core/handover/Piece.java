package ebb.core.handover;

import ebb.core.application.Ownership.Item;
import ebb.core.problem.Problem;
import java.util.Locale;

/**
 * One thing an account owned when stock was taken, and what has become of it.
 *
 * @param recipient the name of whoever has it; null until it has arrived
 * @param place where whoever looks for it finds it at the recipient's; null until it is there
 * @param problem why it could not be carried; null otherwise
 * @param leftOut who left it out, and why; null otherwise
 */
public record Piece(
    Item item, State state, String recipient, String place, Problem problem, String leftOut) {
  public enum State {
    /** Still with the account that is to go. */
    OWNED,
    /** At the recipient's, and read back there as it was. */
    ARRIVED,
    FAILED,
    /** Not handed over, by name and reason. */
    LEFT_OUT,
    /** Not there any more when stock was taken anew; not by Ebb. */
    GONE;

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
  }
}
