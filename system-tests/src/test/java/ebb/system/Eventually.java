package ebb.system;

import java.time.Duration;

/** Waits for what comes about by itself. */
final class Eventually {
  private static final Duration LONGEST = Duration.ofMinutes(2);

  /** Milliseconds. */
  private static final long SHORTEST = 20;

  private static final long LONGEST_PAUSE = 250;

  interface Condition {
    boolean isTrue() throws Exception;
  }

  /**
   * @throws AssertionError if it did not come about within two minutes
   */
  static void waitUntil(String what, Condition condition) throws Exception {
    var end = System.nanoTime() + LONGEST.toNanos();
    // Each look is work for the service, too: what takes long is looked at less often.
    for (var pause = SHORTEST;
        System.nanoTime() < end;
        pause = Math.min(pause * 5 / 4, LONGEST_PAUSE)) {
      if (condition.isTrue()) {
        return;
      }
      Thread.sleep(pause);
    }
    throw new AssertionError("It did not come about: " + what);
  }

  static void waitUntil(Condition condition) throws Exception {
    waitUntil("what was waited for", condition);
  }

  private Eventually() {}
}
