package ebb.core.rule;

import ebb.core.person.Person;
import java.time.LocalDate;
import java.util.Optional;

/**
 * A day from which, or up to which, a rule gives: one of the calendar, or one of the person's dates
 * and so many days after it. Expressions know no today, so that the next day on which something
 * changes can always be told.
 *
 * @param attribute the person's date, as startDate; null where it is a day of the calendar
 * @param day null where it is a date of the person
 * @param days after that; below 0 before it
 */
public record Bound(String attribute, LocalDate day, int days) {
  /** Empty for a person who has no such date. */
  public Optional<LocalDate> of(Person person) {
    return (attribute == null ? Optional.of(day) : person.date(attribute))
        .map(date -> date.plusDays(days));
  }
}
