package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * Attributes set by hand for several people.
 *
 * @param people at most 1,000
 * @param attributes null as a value takes the override away
 */
public record SelectionEdit(List<Long> people, Map<String, String> attributes) {}
