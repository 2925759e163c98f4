package ebb.api;

/** Why something is done that stands in the journal with its reason. */
public record ReasonRequest(String reason) {}
