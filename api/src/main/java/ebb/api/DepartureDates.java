package ebb.api;

import java.time.LocalDate;

/**
 * Other days for a departure.
 *
 * @param handOverFrom null to leave it
 * @param deleteFrom for all its accounts; null to leave it
 * @param reason for the journal
 */
public record DepartureDates(LocalDate handOverFrom, LocalDate deleteFrom, String reason) {}
