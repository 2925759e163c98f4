package ebb.api;

/**
 * What an account of a departure owned of one kind when stock was taken, and what has become of it.
 *
 * @param kind mail, files, calendar …
 * @param uncovered how many cannot be handed over there
 * @param arrived how many are at the recipient's, read back there as they were
 * @param failed how many could not be handed over so far
 * @param leftOut how many are not handed over, by name and reason
 * @param gone how many were not there any more when stock was taken anew; not among the count
 */
public record SheetLineView(
    String kind,
    long count,
    long bytes,
    long uncovered,
    long arrived,
    long failed,
    long leftOut,
    long gone) {}
