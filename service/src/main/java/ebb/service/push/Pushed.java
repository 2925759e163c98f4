package ebb.service.push;

/** Said when something of a source waits for a delivery. */
public record Pushed(String source) {}
