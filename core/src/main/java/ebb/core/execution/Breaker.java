package ebb.core.execution;

import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;

/**
 * Leaves an application alone that does not answer, with growing delays. It is closed while all is
 * well; open while the application rests; and then lets one change feel the way.
 */
final class Breaker {
  /** A lost answer may be the change's own fault; so many in a row are not. */
  private static final int LOST_IN_A_ROW = 3;

  private final Delays delays;
  private final InstantSource time;
  private int lost;
  private int failures;
  private Instant restsUntil = Instant.EPOCH;
  private Problem why;

  Breaker(Delays delays, InstantSource time) {
    this.delays = delays;
    this.time = time;
  }

  synchronized boolean isOpen() {
    return time.instant().isBefore(restsUntil);
  }

  /** Whether it is not known yet that the application is well again. */
  synchronized boolean isFeelingTheWay() {
    return failures > 0;
  }

  /** In the past if it does not rest. */
  synchronized Instant restsUntil() {
    return restsUntil;
  }

  /** Why it rests; null while it does not. */
  synchronized Problem why() {
    return failures > 0 ? why : null;
  }

  synchronized void well() {
    lost = 0;
    failures = 0;
    restsUntil = Instant.EPOCH;
    why = null;
  }

  /** An answer was lost. */
  synchronized void lost(Problem problem) {
    if (++lost >= LOST_IN_A_ROW || failures > 0) {
      rest(null, problem);
    }
  }

  /**
   * Nothing goes there now.
   *
   * @param asked how long the application asked to be left alone; null if it did not
   */
  synchronized void rest(Duration asked, Problem problem) {
    var now = time.instant();
    if (!now.isBefore(restsUntil)) {
      failures++;
      restsUntil = now.plus(longer(asked, delays.after(failures)));
      why = problem;
    }
  }

  static Duration longer(Duration asked, Duration own) {
    return asked == null || asked.compareTo(own) < 0 ? own : asked;
  }
}
