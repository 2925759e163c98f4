package ebb.connectors.feed;

import java.time.Instant;

/**
 * A delivery that was got and lies on our disk.
 *
 * @param name what the other side calls it
 * @param writtenAt when it was written, as the other side says; null if it does not
 * @param mark to be handed in at the next look, so that the same is not got again
 */
public record Fetched(String name, Instant writtenAt, String mark) {}
