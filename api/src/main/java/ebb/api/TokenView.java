package ebb.api;

import java.time.Instant;

/**
 * A token of an operator.
 *
 * @param role less than the operator's; null for no less
 * @param token shown once, when it is made; null afterwards
 */
public record TokenView(
    long id,
    String operator,
    String label,
    String role,
    Instant createdAt,
    Instant expiresAt,
    Instant revokedAt,
    String token) {}
