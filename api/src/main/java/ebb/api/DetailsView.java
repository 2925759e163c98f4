package ebb.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * All that an application shows of an account, asked for just now.
 *
 * @param values as the application calls them
 * @param changedAt when somebody last changed it there; null if that is not known
 * @param changedBy who did, as the application calls them; null if that is not known
 */
public record DetailsView(Map<String, List<String>> values, Instant changedAt, String changedBy) {}
