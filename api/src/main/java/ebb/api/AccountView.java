package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * An account as last seen.
 *
 * @param person null while it is nobody's
 * @param displayName of the person; null while it is nobody's, and where the person is known
 * @param leftAlone null where it is kept as it should be
 * @param strippedAt when what is personal was taken out of it; null if it was not
 */
public record AccountView(
    long id,
    String application,
    String level,
    String name,
    Long person,
    String displayName,
    List<String> groups,
    List<String> seats,
    boolean closing,
    LeftAloneView leftAlone,
    Instant strippedAt,
    Instant seenAt) {}
