package ebb.core.departure;

import ebb.core.departure.DepartureStep.State;
import java.time.LocalDate;

/**
 * When what is known of somebody who left is forgotten. Pure.
 *
 * @param days from the end of their departure
 * @param ended the day on which that ended; null while it is under way
 * @param forgotten the day on which it was done; null while it was not
 * @param against what keeps it from being done; null for nothing
 */
public record Forgetting(int days, LocalDate ended, LocalDate forgotten, String against) {
  /** Null while that is not known. */
  public LocalDate day() {
    return ended == null ? null : ended.plusDays(days);
  }

  public boolean isDue(LocalDate today) {
    return forgotten == null && ended != null && against == null && !today.isBefore(day());
  }

  public DepartureStep step(LocalDate today) {
    if (forgotten != null) {
      return new DepartureStep(
          "forgetting",
          State.DONE,
          forgotten,
          "What was known of them is forgotten; what was done stays in the journal.");
    }
    if (ended == null) {
      return new DepartureStep(
          "forgetting",
          State.AHEAD,
          null,
          "%d days after the end what is known of them is forgotten.".formatted(days));
    }
    if (today.isBefore(day())) {
      return new DepartureStep(
          "forgetting", State.AHEAD, day(), "What is known of them is forgotten for good.");
    }
    return against == null
        ? new DepartureStep("forgetting", State.UNDER_WAY, day(), "It is being forgotten.")
        : new DepartureStep("forgetting", State.WAITS, day(), against);
  }
}
