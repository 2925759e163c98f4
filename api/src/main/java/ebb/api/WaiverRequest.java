package ebb.api;

/** Opens a gate that cannot open by itself. */
public record WaiverRequest(long account, String gate, String reason) {}
