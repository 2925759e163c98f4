package ebb.store.applications;

import java.time.Instant;

/**
 * That an account is left as it is. One that is nobody's is technical; one of a person may differ
 * from what it should be, but is suspended and closed as any other.
 */
public record LeftAlone(String why, String by, Instant at) {}
