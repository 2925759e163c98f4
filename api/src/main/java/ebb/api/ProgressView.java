package ebb.api;

/**
 * How far long work has come, as the reading of a file.
 *
 * @param doing reading, checking, computing or releasing; or waiting for what
 * @param of how many rows or people there are; 0 where that is not known yet
 * @param secondsLeft going by files before; null where there were none
 */
public record ProgressView(String doing, long done, long of, Long secondsLeft) {}
