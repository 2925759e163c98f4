package ebb.store.journal;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.TreeMap;

/**
 * Which entries need not be looked for any more. Numbers are drawn before they are committed: one
 * that is missing may still come, within the longest transaction; after that it is given up. For
 * one thread.
 */
final class Settled {
  private static final Duration LONGEST_TRANSACTION = Duration.ofMinutes(1);

  /** Sealed beyond the first gap: the ends of each unbroken run, by its beginning. */
  private final TreeMap<Long, Long> beyond = new TreeMap<>();

  private long upTo;
  private long latest;
  private Instant lookedAt = Instant.EPOCH;

  /** Where entries may still be missing: after one number and before another. */
  record Gap(long after, long before) {}

  Settled(long upTo) {
    this.upTo = upTo;
  }

  long upTo() {
    return upTo;
  }

  /** The last one has no end. */
  List<Gap> gaps() {
    var gaps = new ArrayList<Gap>();
    var after = upTo;
    for (var run : beyond.entrySet()) {
      gaps.add(new Gap(after, run.getKey()));
      after = run.getValue();
    }
    gaps.add(new Gap(after, Long.MAX_VALUE));
    return gaps;
  }

  /** These are sealed now. */
  void sealed(Collection<Long> entries) {
    entries.stream().filter(entry -> entry > upTo).forEach(this::add);
    swallow();
  }

  private void add(long entry) {
    var run = beyond.floorEntry(entry);
    if (run != null && run.getValue() >= entry) {
      return;
    }
    var from = run != null && run.getValue() == entry - 1 ? run.getKey() : Long.valueOf(entry);
    var next = beyond.remove(entry + 1);
    beyond.put(from, next == null ? entry : next);
  }

  /** What follows upon the settled ones without a gap is settled, too. */
  private void swallow() {
    while (!beyond.isEmpty() && beyond.firstKey() <= upTo + 1) {
      upTo = Math.max(upTo, beyond.pollFirstEntry().getValue());
    }
  }

  /** Whether it is time to look which entry is the latest. */
  boolean isDue(Instant now) {
    return now.isAfter(lookedAt.plus(LONGEST_TRANSACTION));
  }

  /** All there was is sealed, and this is the latest entry; what was missing before is given up. */
  void allSealed(long entry, Instant now) {
    upTo = Math.max(upTo, latest);
    swallow();
    latest = entry;
    lookedAt = now;
  }
}
