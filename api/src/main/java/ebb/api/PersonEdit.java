package ebb.api;

import java.time.LocalDate;
import java.util.Map;

/**
 * Attributes set by hand.
 *
 * @param attributes null as a value takes the override away
 * @param until the last day the values are to hold; null for no end
 */
public record PersonEdit(Map<String, String> attributes, LocalDate until) {
  /** For good. */
  public PersonEdit(Map<String, String> attributes) {
    this(attributes, null);
  }
}
