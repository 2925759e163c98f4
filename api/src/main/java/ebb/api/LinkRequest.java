package ebb.api;

/** Chooses a password by a one-time link. */
public record LinkRequest(String link, String password) {}
