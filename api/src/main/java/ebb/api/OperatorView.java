package ebb.api;

import java.time.Instant;
import java.util.Set;

/**
 * A person who works with Ebb.
 *
 * @param units empty for all
 * @param kinds empty for all
 * @param discreet whether discreet cases are open to them
 * @param password whether one was chosen
 */
public record OperatorView(
    String name,
    long version,
    String role,
    Set<String> units,
    Set<String> kinds,
    Long person,
    boolean discreet,
    boolean password,
    boolean secondFactor,
    Instant createdAt,
    Instant endedAt) {}
