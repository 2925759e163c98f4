package ebb.api;

import java.time.Instant;

/**
 * A one-time link with which an operator chooses a password.
 *
 * @param address shown once
 */
public record LinkView(String operator, String address, Instant expiresAt) {}
