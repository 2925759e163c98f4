package ebb.core.person;

import java.time.LocalDate;

/**
 * A group given to a person by hand: an input like an assertion.
 *
 * @param until the last day included; null for no end
 */
public record Grant(
    long id,
    PersonId person,
    String application,
    String group,
    String reason,
    LocalDate from,
    LocalDate until) {
  public boolean isOpenOn(LocalDate day) {
    return !day.isBefore(from) && (until == null || !day.isAfter(until));
  }
}
