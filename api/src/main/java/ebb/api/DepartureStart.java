package ebb.api;

import java.time.LocalDate;

/**
 * Somebody leaves.
 *
 * @param lastDay the last day of use; may have passed
 * @param successor who gets what they leave behind; null for their manager
 */
public record DepartureStart(long person, LocalDate lastDay, Long successor) {}
