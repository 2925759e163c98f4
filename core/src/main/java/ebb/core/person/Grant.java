package ebb.core.person;

import java.time.LocalDate;

/**
 * A group, or an account without any, given to a person, by hand or by a source that knows it: an
 * input like an assertion.
 *
 * @param group null where it is the account alone
 * @param until the last day included; null for no end
 * @param source who says so; "hand" for operators
 */
public record Grant(
    long id,
    PersonId person,
    String application,
    String group,
    String reason,
    LocalDate from,
    LocalDate until,
    String source) {
  private static final String HAND = "hand";

  public Grant {
    // Proposals kept by earlier versions do not say it, and were all made by hand.
    source = source == null ? HAND : source;
  }

  public boolean isOpenOn(LocalDate day) {
    return !day.isBefore(from) && (until == null || !day.isAfter(until));
  }
}
