package ebb.core.person;

import java.time.Instant;
import java.time.LocalDate;

/**
 * One value as one source asserts it.
 *
 * @param since when the source first asserted this value
 * @param cause the change set that brought it
 * @param until the last day it is said, in the person's time zone; null for no end
 */
public record Asserted(String value, Instant since, long cause, LocalDate until) {
  public Asserted(String value, Instant since, long cause) {
    this(value, since, cause, null);
  }
}
