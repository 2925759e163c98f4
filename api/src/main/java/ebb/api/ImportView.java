package ebb.api;

import java.time.Instant;
import java.util.Map;

/**
 * One reading of a file.
 *
 * @param counts rows by verdict, and under "missing" the people it does not name
 * @param changeSet the effects; null until they are shown
 */
public record ImportView(
    long id,
    String source,
    String file,
    boolean complete,
    String stage,
    Map<String, Long> counts,
    Long changeSet,
    String createdBy,
    Instant createdAt) {}
