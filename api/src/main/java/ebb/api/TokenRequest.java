package ebb.api;

/**
 * Makes a token.
 *
 * @param days until it ends; null for one that ends only when revoked
 * @param operator whose it is; null for one's own
 * @param role less than the operator's; null for no less
 */
public record TokenRequest(String label, Integer days, String operator, String role) {}
