package ebb.api;

import java.time.Instant;

/**
 * A value somebody else keeps writing.
 *
 * @param since since when it differs again
 * @param times how often it came back after it had been as it should be
 */
public record QuarrelView(
    long person, String displayName, String attribute, Instant since, int times) {}
