package ebb.api;

import java.time.Instant;
import java.util.Map;

/**
 * A connected system.
 *
 * @param accounts by level
 * @param drift the newest change set that would put right what drifted; null if none waits
 * @param problem null if it was well when last tried
 */
public record ApplicationView(
    String name,
    long version,
    String kind,
    Map<String, String> settings,
    Map<String, Long> accounts,
    ProblemView problem,
    Instant checkedAt,
    Instant syncedAt,
    Long drift) {}
