package ebb.api;

import java.time.LocalDate;

/**
 * Whom somebody believes.
 *
 * @param source that says what is true
 * @param until the last day another value than the strongest source's is to hold; null for no end
 */
public record ConflictChoice(String source, LocalDate until) {}
