package ebb.api;

/**
 * What a sync found.
 *
 * @param run its number in the history
 * @param everything whether everything was read, not only what changed
 * @param read accounts it came past
 * @param changed those that were not as they had been
 * @param found those that were not known before
 * @param inStep accounts that are as they should be, of all there are; null where only what changed
 *     was read
 * @param drifted people whose account, or whose missing account, is not as it should be
 * @param unmatched accounts that are nobody's; 1001 stands for more than a thousand where only what
 *     changed was read
 * @param changeSet proposes to put right what drifted; null if all is in step
 */
public record SyncView(
    String application,
    long run,
    boolean everything,
    long read,
    long changed,
    long found,
    Long inStep,
    long drifted,
    long missing,
    long unmatched,
    Long changeSet) {}
