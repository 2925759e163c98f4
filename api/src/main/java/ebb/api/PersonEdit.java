package ebb.api;

import java.util.Map;

/**
 * Attributes set by hand.
 *
 * @param attributes null as a value takes the override away
 */
public record PersonEdit(Map<String, String> attributes) {}
