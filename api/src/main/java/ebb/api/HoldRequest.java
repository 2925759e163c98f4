package ebb.api;

import java.time.LocalDate;

/**
 * Sets a hold.
 *
 * @param until the last day included; null until lifted
 */
public record HoldRequest(String reason, LocalDate until) {}
