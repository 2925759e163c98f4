package ebb.api;

import java.util.Map;

/**
 * Mends a refused row.
 *
 * @param texts heading to what shall stand there
 * @param alike whether every row that is refused because the same text stands in that column is
 *     mended too
 */
public record MendRequest(Map<String, String> texts, boolean alike) {}
