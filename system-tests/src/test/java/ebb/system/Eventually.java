package ebb.system;

/** Waits for what comes about by itself. */
final class Eventually {
  private static final int LOOKS = 4_800;

  interface Condition {
    boolean isTrue() throws Exception;
  }

  /**
   * @throws AssertionError if it did not come about within two minutes
   */
  static void waitUntil(String what, Condition condition) throws Exception {
    for (int i = 0; i < LOOKS; i++) {
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
