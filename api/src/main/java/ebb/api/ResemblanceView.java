package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * Somebody a row may be.
 *
 * @param score up to 100
 * @param reasons in words, strongest first
 * @param values what is known of the person, for the attributes of the row
 */
public record ResemblanceView(
    long person, String displayName, int score, List<String> reasons, Map<String, String> values) {}
