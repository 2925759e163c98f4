package ebb.api;

/**
 * Opens one thing an account of a departure owns.
 *
 * @param item its id
 */
public record OpenRequest(String item, String reason) {}
