package ebb.api;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * Attributes set by hand for several people.
 *
 * @param people at most 1,000
 * @param attributes null as a value takes the override away
 * @param until the last day the values are to hold; null for no end
 */
public record SelectionEdit(List<Long> people, Map<String, String> attributes, LocalDate until) {}
