package ebb.api;

import java.util.Map;
import java.util.Set;

/**
 * Where assertions come from.
 *
 * @param key heading of the key column
 * @param columns heading to attribute
 */
public record SourceView(
    String name,
    long version,
    int rank,
    String key,
    Map<String, String> columns,
    Set<String> ignored,
    String dateFormat) {}
