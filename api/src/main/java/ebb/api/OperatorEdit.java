package ebb.api;

import java.util.Set;

/**
 * Grants an operator a role.
 *
 * @param units null or empty for all
 * @param kinds null or empty for all
 * @param person the operator's own number among the people; null if not known
 * @param discreet whether discreet cases are open to them
 * @param ended whether the operator may work no more
 */
public record OperatorEdit(
    String role,
    Set<String> units,
    Set<String> kinds,
    Long person,
    boolean discreet,
    boolean ended) {}
