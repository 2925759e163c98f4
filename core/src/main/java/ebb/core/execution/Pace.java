package ebb.core.execution;

import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;

/**
 * How many calls an application gets at once, and how many a second. Where it asks for fewer, they
 * are halved; while it takes them well, they grow again one by one.
 */
final class Pace {
  /** Calls under way when the application asked for fewer will all ask for it: once is enough. */
  private static final Duration ONE_MIND = Duration.ofSeconds(1);

  private final int most;
  private final long nanosBetween;
  private final InstantSource time;
  private final ReentrantLock lock = new ReentrantLock();
  private final Condition turn = lock.newCondition();
  private int atOnce;
  private int calls;
  private int well;
  private Instant slowedAt = Instant.EPOCH;
  private long nextNanos = System.nanoTime();

  /**
   * @param perSecond 0 for as many as go
   */
  Pace(int most, double perSecond, InstantSource time) {
    this.most = most;
    this.nanosBetween = perSecond <= 0 ? 0 : (long) (1e9 / perSecond);
    this.time = time;
    this.atOnce = most;
  }

  /** Waits for its turn. Each call that is let in must leave. */
  void enter() throws InterruptedException {
    long wait;
    lock.lock();
    try {
      while (calls >= atOnce) {
        turn.await();
      }
      calls++;
      var now = System.nanoTime();
      nextNanos = Math.max(nextNanos, now) + nanosBetween;
      wait = nanosBetween == 0 ? 0 : nextNanos - nanosBetween - now;
    } finally {
      lock.unlock();
    }
    if (wait > 0) {
      Thread.sleep(Duration.ofNanos(wait));
    }
  }

  void leave() {
    lock.lock();
    try {
      calls--;
      next();
    } finally {
      lock.unlock();
    }
  }

  /** One turn is one call's: waking all that wait costs more than the calls do. */
  private void next() {
    if (calls < atOnce) {
      turn.signal();
    }
  }

  void slower() {
    lock.lock();
    try {
      well = 0;
      var now = time.instant();
      if (now.isAfter(slowedAt.plus(ONE_MIND))) {
        slowedAt = now;
        atOnce = Math.max(1, atOnce / 2);
      }
    } finally {
      lock.unlock();
    }
  }

  void takenWell() {
    lock.lock();
    try {
      if (atOnce < most && ++well >= atOnce * 2) {
        well = 0;
        atOnce++;
        next();
      }
    } finally {
      lock.unlock();
    }
  }

  int atOnce() {
    lock.lock();
    try {
      return atOnce;
    } finally {
      lock.unlock();
    }
  }
}
