package ebb.api;

/**
 * Releases a change set.
 *
 * @param reason lets a guard stop pass; null where there is none
 */
public record ReleaseRequest(String reason) {}
