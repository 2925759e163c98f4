package ebb.api;

import java.time.LocalDate;

/**
 * Gives a group by hand.
 *
 * @param from null for today
 * @param until the last day included; null for no end
 */
public record GrantRequest(
    String application, String group, String reason, LocalDate from, LocalDate until) {}
