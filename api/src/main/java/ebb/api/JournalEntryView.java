package ebb.api;

import java.time.Instant;

/**
 * Who did what.
 *
 * @param details personal values; null if there are none or they were forgotten
 */
public record JournalEntryView(
    long id,
    Instant at,
    String actor,
    String act,
    Long person,
    String reason,
    String details,
    boolean sealed) {}
