package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * An account as last seen.
 *
 * @param person null while it is nobody's
 */
public record AccountView(
    long id,
    String application,
    String level,
    String name,
    Long person,
    List<String> groups,
    boolean closing,
    Instant seenAt) {}
