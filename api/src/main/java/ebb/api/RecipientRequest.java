package ebb.api;

/** Names who gets what the accounts own. */
public record RecipientRequest(long person) {}
