package ebb.api;

import java.util.Map;
import java.util.Set;

/**
 * Who gets an account in an application, and how it is filled.
 *
 * @param seat the seat everyone of it takes; null for none
 */
public record RuleView(
    String name,
    long version,
    String application,
    String condition,
    Map<String, String> values,
    Map<String, String> references,
    Set<String> groups,
    String seat,
    int leadDays) {}
