package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * In what an application and Ebb do not agree.
 *
 * @param syncedAt null if it was never read
 * @param kinds the most urgent first; those of which there is nothing are left out
 * @param quarrels values that come back again and again, at most a hundred
 */
public record FindingsView(
    String application,
    Instant syncedAt,
    List<FindingCountView> kinds,
    List<QuarrelView> quarrels) {}
