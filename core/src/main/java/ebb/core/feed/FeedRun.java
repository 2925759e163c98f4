package ebb.core.feed;

import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.Locale;

/**
 * One look for a delivery that found something, or something amiss.
 *
 * @param cause what made us look
 * @param file what was found; null if nothing was
 * @param made the import that was made of it; null if none was
 * @param problem what was amiss; null if nothing was
 * @param endedAt null while it goes on
 */
public record FeedRun(
    long id,
    String source,
    Cause cause,
    Outcome outcome,
    String file,
    Long made,
    Problem problem,
    String by,
    Instant startedAt,
    Instant endedAt) {
  public enum Cause {
    TIMETABLE,
    /** A file came, or a call. */
    DELIVERY,
    /** Somebody said: now. */
    HAND;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public enum Outcome {
    RUNNING,
    /** Read, and what follows was let through by itself. */
    DONE,
    /** Nothing has changed since last time. */
    NOTHING_NEW,
    /** The guard wants a look at it. */
    STOPPED,
    /** Somebody has to say how it is read. */
    ASKED,
    /** It could not be got, or not be read. */
    FAILED,
    /** Expected, and not there. */
    LATE;

    /** Whether a delivery came and was taken. */
    public boolean isDelivery() {
      return this == DONE || this == NOTHING_NEW || this == STOPPED || this == ASKED;
    }

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  public FeedRun found(String file, Long made) {
    return new FeedRun(id, source, cause, outcome, file, made, problem, by, startedAt, endedAt);
  }

  public FeedRun ended(Outcome outcome, Problem problem, Instant at) {
    return new FeedRun(id, source, cause, outcome, file, made, problem, by, startedAt, at);
  }
}
