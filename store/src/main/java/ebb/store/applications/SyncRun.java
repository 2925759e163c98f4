package ebb.store.applications;

import ebb.core.problem.Problem;
import java.time.Instant;

/**
 * One reading of an application.
 *
 * @param endedAt null while it goes on
 * @param whole whether everything was read, not only what changed
 * @param counts as far as it came
 * @param changeSet would put right what drifted; null if nothing did
 * @param problem why it broke off; null if it did not
 */
public record SyncRun(
    long id,
    String application,
    String by,
    Instant begunAt,
    Instant endedAt,
    boolean whole,
    Counts counts,
    Long changeSet,
    Problem problem) {
  /**
   * What came of it.
   *
   * @param read accounts it came past
   * @param changed those that were not as they had been
   * @param found those that were not known before
   * @param missing those that are not there any more
   * @param drifted accounts of people that are not as they should be
   * @param unmatched accounts that are nobody's
   */
  public record Counts(
      long read, long changed, long found, long missing, long drifted, long unmatched) {
    public static final Counts NONE = new Counts(0, 0, 0, 0, 0, 0);
  }

  public SyncRun at(boolean whole, Counts counts) {
    return new SyncRun(id, application, by, begunAt, null, whole, counts, null, null);
  }

  public SyncRun ended(Instant at, Counts counts, Long changeSet) {
    return new SyncRun(id, application, by, begunAt, at, whole, counts, changeSet, null);
  }

  public SyncRun brokenOff(Instant at, Problem why) {
    return new SyncRun(id, application, by, begunAt, at, whole, counts, null, why);
  }
}
