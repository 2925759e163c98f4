package ebb.api;

/** Changes one's own password. */
public record PasswordRequest(String now, String next) {}
