package ebb.api;

/**
 * Decides about a missing person.
 *
 * @param decision leaver, still-here or unknown
 */
public record MissingAnswer(String decision) {}
