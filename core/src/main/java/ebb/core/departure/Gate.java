package ebb.core.departure;

/**
 * What must be true before an account is deleted.
 *
 * @param name stable: hold, suspended, stock, recipient, handover, uncovered, references, waiting
 * @param why one sentence with its values; for an open gate what made it so
 * @param remedy what opens it; null for an open gate
 */
public record Gate(String name, State state, String why, String remedy) {
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

  /** A hold and the suspension are no questions of judgement, and nobody waives them. */
  public boolean canBeWaived() {
    return !name.equals("hold") && !name.equals("suspended");
  }

  static Gate open(String name, String why) {
    return new Gate(name, State.OPEN, why, null);
  }

  static Gate shut(String name, String why, String remedy) {
    return new Gate(name, State.SHUT, why, remedy);
  }

  static Gate notKnown(String name, String why, String remedy) {
    return new Gate(name, State.NOT_KNOWN, why, remedy);
  }

  Gate waived(String reason) {
    return new Gate(name, State.WAIVED, why + " Waived: " + reason, null);
  }
}
