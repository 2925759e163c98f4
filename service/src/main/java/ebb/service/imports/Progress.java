package ebb.service.imports;

import java.time.Duration;

/** How far the reading of a file has come. Written by one thread, read by many. */
final class Progress {
  private final long began = System.nanoTime();
  private final long expectedMillis;
  private volatile String doing = "reading";
  private volatile long done;
  private volatile long of;

  /**
   * @param expectedMillis how long files of this size took before; 0 where there were none
   */
  Progress(long expectedMillis) {
    this.expectedMillis = expectedMillis;
  }

  /**
   * @param other what goes on instead; null once its turn has come
   */
  void waiting(String other) {
    doing = other == null ? "reading" : "waiting for " + other;
  }

  void read(long rows) {
    done = rows;
  }

  void checking(long rows) {
    doing = "checking";
    done = 0;
    of = rows;
  }

  void checked(long rows) {
    done = done + rows;
  }

  void computing() {
    doing = "computing";
    done = 0;
    of = 0;
  }

  String doing() {
    return doing;
  }

  long done() {
    return done;
  }

  /** How many there are; 0 where that is not known. */
  long of() {
    return of;
  }

  long tookMillis() {
    return Duration.ofNanos(System.nanoTime() - began).toMillis();
  }

  /** What is left, going by files before; null where there were none. */
  Long secondsLeft() {
    return expectedMillis == 0 ? null : Math.max(1, (expectedMillis - tookMillis()) / 1000);
  }
}
