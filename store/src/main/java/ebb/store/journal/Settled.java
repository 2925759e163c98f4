package ebb.store.journal;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.TreeSet;

/**
 * Up to which entry nothing is left to be sealed, so that it need not be looked for again. Numbers
 * are drawn before they are committed: one that is missing may still come, within the longest
 * transaction; after that it never will. For one thread.
 */
public final class Settled {
  private static final Duration LONGEST_TRANSACTION = Duration.ofMinutes(1);

  /** All entries are looked at once in a while, whatever was thought of them. */
  private static final Duration BEGIN_ANEW = Duration.ofHours(1);

  private final TreeSet<Long> beyond = new TreeSet<>();
  private long upTo;
  private long latest;
  private Instant lookedAt = Instant.EPOCH;
  private Instant beganAt;

  public Settled(Instant now) {
    beganAt = now;
  }

  public long upTo() {
    return upTo;
  }

  /** These are sealed now. */
  public void sealed(Collection<Long> entries) {
    beyond.addAll(entries);
    while (!beyond.isEmpty() && beyond.first() <= upTo + 1) {
      upTo = Math.max(upTo, beyond.pollFirst());
    }
  }

  /** Whether it is time to look which entry is the latest. */
  public boolean isDue(Instant now) {
    return now.isAfter(lookedAt.plus(LONGEST_TRANSACTION));
  }

  /** All there was is sealed, and this is the latest entry. */
  public void allSealed(long entry, Instant now) {
    if (now.isAfter(beganAt.plus(BEGIN_ANEW))) {
      beganAt = now;
      upTo = 0;
      beyond.clear();
    } else {
      upTo = Math.max(upTo, latest);
      beyond.headSet(upTo, true).clear();
    }
    latest = entry;
    lookedAt = now;
  }
}
