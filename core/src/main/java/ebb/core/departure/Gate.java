package ebb.core.departure;

import java.util.Set;

/**
 * What must be true before an account is deleted or stripped.
 *
 * @param name stable: hold, paused, return, suspended, stock, recipient, handover, uncovered,
 *     references, waiting, approval, refusals
 * @param why one sentence with its values; for an open gate what made it so
 * @param remedy what opens it; null for an open gate
 * @param needsSomebody whether it stays shut until an operator does something; others open with
 *     time, with work that goes on, or when whoever shut it opens it
 */
public record Gate(String name, State state, String why, String remedy, boolean needsSomebody) {
  /** Of those that wait because others are refused; it concerns none that was refused itself. */
  public static final String REFUSALS = "refusals";

  private static final Set<String> NEVER_WAIVED =
      Set.of("hold", "paused", "return", "suspended", "approval");

  public enum State {
    OPEN,
    SHUT,
    /** The application cannot say: shut until waived by name and reason. */
    NOT_KNOWN,
    /** Shut by itself, opened by an operator with a reason. */
    WAIVED
  }

  public boolean isOpen() {
    return state == State.OPEN || state == State.WAIVED;
  }

  /**
   * A hold, a pause and the suspension are no questions of judgement, and nobody waives them;
   * whether somebody is coming back is said of the departure, not of an account; an approval is
   * given by somebody who decided nothing else about it.
   */
  public boolean canBeWaived() {
    return !NEVER_WAIVED.contains(name);
  }

  static Gate open(String name, String why) {
    return new Gate(name, State.OPEN, why, null, false);
  }

  static Gate shut(String name, String why, String remedy) {
    return new Gate(name, State.SHUT, why, remedy, true);
  }

  static Gate shutForNow(String name, String why, String remedy) {
    return new Gate(name, State.SHUT, why, remedy, false);
  }

  static Gate notKnown(String name, String why, String remedy) {
    return new Gate(name, State.NOT_KNOWN, why, remedy, true);
  }

  Gate waived(String reason) {
    return new Gate(name, State.WAIVED, why + " Waived by " + reason, null, false);
  }
}
