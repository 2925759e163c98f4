package ebb.api;

/**
 * Makes a token.
 *
 * @param days until it ends; null for one that ends only when revoked
 */
public record TokenRequest(String label, Integer days) {}
