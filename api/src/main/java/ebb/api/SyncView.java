package ebb.api;

/**
 * What a sync found.
 *
 * @param changeSet proposes to put right what drifted; null if all is in step
 */
public record SyncView(
    String application,
    long read,
    long inStep,
    long drifted,
    long missing,
    long unmatched,
    Long changeSet) {}
