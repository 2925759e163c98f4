package ebb.api;

import java.util.Map;
import java.util.Set;

/**
 * Who gets an account in an application, and how it is filled.
 *
 * @param sentence the condition as it is read aloud; not looked at where a rule is sent
 * @param seat the seat everyone of it takes; null for none
 * @param waitsIn the change set with which an edit of it waits; null if none does
 */
public record RuleView(
    String name,
    long version,
    String application,
    String condition,
    String sentence,
    Map<String, String> values,
    Map<String, String> references,
    Set<String> groups,
    String seat,
    int leadDays,
    Long waitsIn) {}
