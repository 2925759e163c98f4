package ebb.api;

import java.time.Instant;
import java.util.List;
import java.util.Set;

/**
 * An account that is suspended, and what is still open to it.
 *
 * @param standing off, still open, being asked, or not known where the application cannot say
 * @param sessions how many were open when it was asked
 * @param seats it takes while it is off
 * @param askedAt null until the application was asked
 * @param problem why it could not be asked the last time; null if it could
 */
public record OffAccountView(
    long account,
    String application,
    String name,
    String standing,
    int sessions,
    List<WayView> ways,
    Set<String> seats,
    Instant askedAt,
    ProblemView problem) {}
