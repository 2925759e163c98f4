package ebb.api;

import java.util.Map;
import java.util.Set;

/**
 * Where assertions come from.
 *
 * @param key heading of the key column
 * @param columns heading to attribute
 * @param computed attribute to an expression over row
 * @param tables attribute to what the source's codes mean
 */
public record SourceView(
    String name,
    long version,
    int rank,
    String key,
    Map<String, String> columns,
    Set<String> ignored,
    String dateFormat,
    Map<String, String> computed,
    Map<String, Map<String, String>> tables) {}
