package ebb.api;

import java.time.Instant;

/**
 * A token of an operator.
 *
 * @param token shown once, when it is made; null afterwards
 */
public record TokenView(
    long id,
    String operator,
    String label,
    Instant createdAt,
    Instant expiresAt,
    Instant revokedAt,
    String token) {}
