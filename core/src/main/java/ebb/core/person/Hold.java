package ebb.core.person;

import java.time.LocalDate;

/**
 * A legal or HR order that nothing of a person may be removed.
 *
 * @param until the last day included; null until lifted
 */
public record Hold(long id, PersonId person, String reason, String setBy, LocalDate until) {
  public boolean isInForceOn(LocalDate day) {
    return until == null || !day.isAfter(until);
  }
}
