package ebb.api;

import java.time.Instant;
import java.util.Map;
import java.util.Set;

/**
 * A connected system.
 *
 * @param accounts by level
 * @param drift the newest change set that would put right what drifted; null if none waits
 * @param secrets which there are; they themselves are never shown
 * @param paused null while its changes are carried out
 * @param problem null if it was well when last tried
 */
public record ApplicationView(
    String name,
    long version,
    String kind,
    Map<String, String> settings,
    Set<String> secrets,
    Map<String, Long> accounts,
    PauseView paused,
    ProblemView problem,
    Instant checkedAt,
    Instant syncedAt,
    Long drift) {}
