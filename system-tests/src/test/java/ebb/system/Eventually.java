package ebb.system;

import java.time.Duration;

/** Waits for what comes about by itself. */
final class Eventually {
  private static final Duration LONGEST = Duration.ofMinutes(2);

  interface Condition {
    boolean isTrue() throws Exception;
  }

  /**
   * @throws AssertionError if it did not come about within two minutes
   */
  static void waitUntil(String what, Condition condition) throws Exception {
    var end = System.nanoTime() + LONGEST.toNanos();
    while (System.nanoTime() < end) {
      if (condition.isTrue()) {
        return;
      }
      Thread.sleep(25);
    }
    throw new AssertionError("It did not come about: " + what);
  }

  static void waitUntil(Condition condition) throws Exception {
    waitUntil("what was waited for", condition);
  }

  private Eventually() {}
}
