package ebb.api;

/**
 * Stops work until it is let go on.
 *
 * @param why in words; needed
 */
public record PauseRequest(String why) {}
