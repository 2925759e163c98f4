package ebb.api;

import java.time.LocalDate;
import java.util.List;

/**
 * Asks whether accounts are still needed.
 *
 * @param until the last day for an answer; those not answered are suspended the day after
 * @param ofManager whether managers are asked, and not the owners themselves
 */
public record StillNeededRequest(List<Long> accounts, LocalDate until, boolean ofManager) {}
