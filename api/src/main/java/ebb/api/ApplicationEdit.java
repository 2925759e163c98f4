package ebb.api;

import java.util.Map;

/**
 * Connects an application, or changes how.
 *
 * @param secret password or token; null keeps the one there is
 */
public record ApplicationEdit(String kind, Map<String, String> settings, String secret) {}
