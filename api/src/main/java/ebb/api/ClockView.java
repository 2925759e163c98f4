package ebb.api;

import java.time.Instant;

/**
 * The business time.
 *
 * @param movable whether it can be moved here, as in the demo
 */
public record ClockView(Instant now, boolean movable) {}
