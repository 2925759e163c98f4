package ebb.api;

/**
 * What to do about a group of an application.
 *
 * @param reason of leaving it alone; null to take it up again
 */
public record GroupRequest(String group, String reason) {}
