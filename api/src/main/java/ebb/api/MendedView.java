package ebb.api;

/**
 * What mending did.
 *
 * @param rows how many rows were checked again
 * @param refused how many of them are refused still
 */
public record MendedView(long rows, long refused) {}
