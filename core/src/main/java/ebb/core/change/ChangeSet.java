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
 * @param foretold what applications will refuse of it, as far as can be told; stops nothing
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
    List<Problem> foretold,
    String createdBy,
    Instant createdAt,
    String releasedBy,
    Instant releasedAt,
    long version) {
  /** A set of which nothing is known yet. */
  public static ChangeSet begun(
      long id, Cause cause, String title, Long takesBack, String by, Instant at) {
    return new ChangeSet(
        id,
        cause,
        title,
        SetState.DRAFT,
        takesBack,
        null,
        List.of(),
        List.of(),
        by,
        at,
        null,
        null,
        1);
  }

  /** The same set under another title. */
  public ChangeSet called(String title) {
    return with(title, state, takenBackBy, stops, foretold, releasedBy, releasedAt);
  }

  /** The same set in another state. */
  public ChangeSet in(SetState state, String releasedBy, Instant releasedAt) {
    return with(title, state, takenBackBy, stops, foretold, releasedBy, releasedAt);
  }

  /** The same set, computed and shown. */
  public ChangeSet shown(List<Problem> stops, List<Problem> foretold) {
    return with(title, SetState.SHOWN, takenBackBy, stops, foretold, null, null);
  }

  /**
   * The same set, taken back.
   *
   * @param by the set that did so; null where that was taken back itself
   */
  public ChangeSet takenBack(Long by) {
    return with(title, state, by, stops, foretold, releasedBy, releasedAt);
  }

  private ChangeSet with(
      String title,
      SetState state,
      Long takenBackBy,
      List<Problem> stops,
      List<Problem> foretold,
      String releasedBy,
      Instant releasedAt) {
    return new ChangeSet(
        id,
        cause,
        title,
        state,
        takesBack,
        takenBackBy,
        stops,
        foretold,
        createdBy,
        createdAt,
        releasedBy,
        releasedAt,
        version);
  }
}
