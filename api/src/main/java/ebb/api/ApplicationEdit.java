package ebb.api;

import java.util.Map;

/**
 * Connects an application, or changes how.
 *
 * @param secrets "token" for a password or token, "key" for the private key of a certificate,
 *     "companion" for a token of its own; those left out stay, one that is empty is taken away
 */
public record ApplicationEdit(
    String kind, Map<String, String> settings, Map<String, String> secrets) {}
