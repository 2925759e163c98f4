package ebb.api;

/**
 * How far the reading of a file has come.
 *
 * @param doing reading, checking or computing
 * @param of how many rows there are; 0 where that is not known yet
 * @param secondsLeft going by files before; null where there were none
 */
public record ProgressView(String doing, long done, long of, Long secondsLeft) {}
