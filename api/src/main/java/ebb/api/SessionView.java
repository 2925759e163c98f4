package ebb.api;

import java.util.Set;

/**
 * Who is signed in.
 *
 * @param name null while nobody is; then all else is empty
 * @param units the operator answers for; empty for all
 * @param kinds of people the operator answers for; empty for all
 * @param acts what the operator may do, by word
 * @param warning null where there is nothing to say
 */
public record SessionView(
    String name,
    String role,
    Set<String> units,
    Set<String> kinds,
    Set<String> acts,
    boolean secondFactor,
    String warning) {}
