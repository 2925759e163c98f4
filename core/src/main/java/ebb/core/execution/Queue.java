package ebb.core.execution;

import java.time.Instant;
import java.util.List;

/** The durable queue of released changes. Each method is a transaction of its own. */
public interface Queue {
  /**
   * Claims changes of one application that are due and need nothing more first, computing each
   * again. No other worker gets them until the lease ends.
   *
   * @param urgent whether to claim those that cut through every pause, or the others
   * @return in order of age, at most max; empty if nothing is due
   */
  List<Claim> claim(String application, boolean urgent, int max, Instant now, Instant leaseUntil);

  /** Records what became of claimed changes, with all that follows from it, as one. */
  void record(List<Result> results, Instant now);

  /**
   * Reads and writes nothing of anybody's, to tell results that cannot be recorded from a queue
   * that can record none.
   *
   * @throws RuntimeException if the queue is down
   */
  void check();
}
