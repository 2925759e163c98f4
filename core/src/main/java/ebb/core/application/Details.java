package ebb.core.application;

import java.time.Instant;
import java.util.List;
import java.util.SortedMap;

/**
 * All that an application shows of an account, whether or not Ebb fills it.
 *
 * @param values as the application calls them
 * @param changedAt when somebody last changed it; null if that is not known
 * @param changedBy who did, as the application calls them; null if that is not known
 */
public record Details(
    SortedMap<String, List<String>> values, Instant changedAt, String changedBy) {}
