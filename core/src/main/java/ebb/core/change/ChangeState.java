package ebb.core.change;

import java.util.EnumSet;
import java.util.Set;

/** Where a change stands. Stored by its word, which therefore never changes. */
public enum ChangeState {
  /** Shown; nothing is written until it is released. */
  PROPOSED,
  /** Released; waits for its turn, for what it needs first, or for its next try. */
  QUEUED,
  /** Released, and stopped before its turn: too much of its set was refused. */
  HALTED,
  /** Being carried out under a lease. */
  CLAIMED,
  /** Sent, and no answer came: the application is asked before anything is sent again. */
  UNSURE,
  /** Carried out and read back. */
  SEEN,
  /** Carried out; of a kind that cannot be read back. */
  ACCEPTED,
  /** Will never succeed as it stands. */
  REFUSED,
  /** What it needs first was refused. */
  BLOCKED,
  /** No longer wanted when its turn came. */
  OVERTAKEN,
  /** Taken out of its set before release. */
  WITHDRAWN;

  public boolean isOver() {
    return next().isEmpty();
  }

  public boolean isDone() {
    return this == SEEN || this == ACCEPTED;
  }

  public boolean mayBecome(ChangeState next) {
    return next().contains(next);
  }

  private Set<ChangeState> next() {
    return switch (this) {
      case PROPOSED -> EnumSet.of(QUEUED, WITHDRAWN);
      case QUEUED -> EnumSet.of(CLAIMED, BLOCKED, OVERTAKEN, HALTED);
      case CLAIMED -> EnumSet.of(QUEUED, UNSURE, SEEN, ACCEPTED, REFUSED, OVERTAKEN);
      case UNSURE -> EnumSet.of(CLAIMED, BLOCKED, OVERTAKEN);
      case REFUSED, BLOCKED, HALTED -> EnumSet.of(QUEUED);
      case SEEN, ACCEPTED, OVERTAKEN, WITHDRAWN -> EnumSet.noneOf(ChangeState.class);
    };
  }

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
