package ebb.api;

import java.time.LocalDate;

/**
 * Other dates for a suspension.
 *
 * @param until the last day; null until somebody ends it
 * @param review null for none
 */
public record SuspensionEdit(LocalDate until, LocalDate review) {}
