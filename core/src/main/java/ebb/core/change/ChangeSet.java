package ebb.core.change;

import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.List;

/**
 * The changes that one cause brings.
 *
 * @param title what an operator calls it: "import hr-day-1.csv"
 * @param takesBack the set this one takes back; null for others
 * @param takenBackBy the set that took this one back, once that is released; null otherwise
 * @param stops what the guard says against it; empty if nothing
 * @param version grows with every write; the ETag
 */
public record ChangeSet(
    long id,
    Cause cause,
    String title,
    SetState state,
    Long takesBack,
    Long takenBackBy,
    List<Problem> stops,
    String createdBy,
    Instant createdAt,
    String releasedBy,
    Instant releasedAt,
    long version) {
  /** The same set under another title. */
  public ChangeSet called(String title) {
    return new ChangeSet(
        id,
        cause,
        title,
        state,
        takesBack,
        takenBackBy,
        stops,
        createdBy,
        createdAt,
        releasedBy,
        releasedAt,
        version);
  }

  /** The same set in another state. */
  public ChangeSet in(SetState state, String releasedBy, Instant releasedAt) {
    return new ChangeSet(
        id,
        cause,
        title,
        state,
        takesBack,
        takenBackBy,
        stops,
        createdBy,
        createdAt,
        releasedBy,
        releasedAt,
        version);
  }
}
