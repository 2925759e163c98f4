package ebb.core.change;

import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.stream.Stream;

/**
 * The changes that one cause brings.
 *
 * @param title what an operator calls it: "import hr-day-1.csv"
 * @param takesBack the set this one takes back; null for others
 * @param takenBackBy the set that took this one back, once that is released; null otherwise
 * @param stops what the guard says against it; empty if nothing
 * @param remarks what is to be known before it is let through, and stops nothing: what applications
 *     will refuse of it, why it waits though its like goes by itself
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
    List<Problem> remarks,
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
    return with(title, state, takenBackBy, stops, remarks, releasedBy, releasedAt);
  }

  /** The same set in another state. */
  public ChangeSet in(SetState state, String releasedBy, Instant releasedAt) {
    return with(title, state, takenBackBy, stops, remarks, releasedBy, releasedAt);
  }

  /** The same set, computed and shown. */
  public ChangeSet shown(List<Problem> stops, List<Problem> remarks) {
    return with(title, SetState.SHOWN, takenBackBy, stops, remarks, null, null);
  }

  /** The same set, with something more to be known of it; said once, however often. */
  public ChangeSet remarked(List<Problem> more) {
    var all = new LinkedHashMap<String, Problem>();
    Stream.concat(remarks.stream(), more.stream()).forEach(one -> all.put(one.what(), one));
    return with(
        title, state, takenBackBy, stops, List.copyOf(all.values()), releasedBy, releasedAt);
  }

  /**
   * The same set, taken back.
   *
   * @param by the set that did so; null where that was taken back itself
   */
  public ChangeSet takenBack(Long by) {
    return with(title, state, by, stops, remarks, releasedBy, releasedAt);
  }

  private ChangeSet with(
      String title,
      SetState state,
      Long takenBackBy,
      List<Problem> stops,
      List<Problem> remarks,
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
        remarks,
        createdBy,
        createdAt,
        releasedBy,
        releasedAt,
        version);
  }
}
