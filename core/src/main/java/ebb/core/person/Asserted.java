package ebb.core.person;

import java.time.Instant;

/**
 * One value as one source asserts it.
 *
 * @param since when the source first asserted this value
 * @param cause the change set that brought it
 */
public record Asserted(String value, Instant since, long cause) {}
