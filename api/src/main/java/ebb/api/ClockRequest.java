package ebb.api;

import java.time.Instant;

/** Moves the business time forward. */
public record ClockRequest(Instant to) {}
