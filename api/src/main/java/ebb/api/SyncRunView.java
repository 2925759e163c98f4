package ebb.api;

import java.time.Instant;

/**
 * One reading of an application.
 *
 * @param endedAt null while it goes on
 * @param everything whether everything was read, not only what changed
 * @param changeSet proposed to put right what drifted; null if nothing did
 * @param problem why it broke off; null if it did not
 */
public record SyncRunView(
    long id,
    String application,
    String by,
    Instant begunAt,
    Instant endedAt,
    boolean everything,
    long read,
    long changed,
    long found,
    long missing,
    long drifted,
    long unmatched,
    Long changeSet,
    ProblemView problem) {}
