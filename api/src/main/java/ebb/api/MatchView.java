package ebb.api;

import java.util.List;

/**
 * For whom a condition holds, counted so far.
 *
 * @param looked people looked at by this request
 * @param matching those of them for whom it holds
 * @param failing those for whom it cannot be computed
 * @param failure why it cannot, for the first of them; null if there is none
 * @param of how many people there are
 * @param first some of those for whom it holds
 * @param next after whom to go on; null if everybody was looked at
 */
public record MatchView(
    long looked,
    long matching,
    long failing,
    String failure,
    long of,
    List<PersonRef> first,
    Long next) {
  /** What was counted by this request and the next one. */
  public MatchView and(MatchView later) {
    return new MatchView(
        looked + later.looked,
        matching + later.matching,
        failing + later.failing,
        failure == null ? later.failure : failure,
        later.of,
        first.isEmpty() ? later.first : first,
        later.next);
  }

  /** Somebody, by name. */
  public record PersonRef(long id, String displayName, String department) {}
}
