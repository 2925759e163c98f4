package ebb.core.guard;

import ebb.core.application.Seats.Seat;
import ebb.core.problem.Problem;
import java.util.Optional;

/** Stops a change set that takes more seats than there are. */
public final class SeatGuard {
  /**
   * @param name as rules have it
   * @param more seats the set would take
   * @param fewer seats it would free
   * @return empty if there are enough, or nobody knows how many there are
   */
  public static Optional<Problem> check(
      String application, String name, Seat seat, long more, long fewer) {
    if (seat.total() == null || more == 0 || seat.taken() + more - fewer <= seat.total()) {
      return Optional.empty();
    }
    return Optional.of(
        new Problem(
            "guard-seats-short",
            "%s: %,d seats %s would be taken, and %,d of %,d are left."
                .formatted(
                    application,
                    more,
                    name,
                    Math.max(0, seat.total() - seat.taken()),
                    seat.total()),
            fewer == 0
                ? "Those beyond would be refused one by one, and their people left without."
                : "Even with the %,d it frees there are too few; those beyond would be refused one by one."
                    .formatted(fewer),
            "Get more seats there, give another seat by the rule, or release it for the first few.",
            null));
  }

  private SeatGuard() {}
}
