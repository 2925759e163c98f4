package ebb.api;

import java.time.Instant;
import java.util.Set;

/**
 * An account in use into which its owner has not signed in for long.
 *
 * @param person null if it is nobody's
 * @param signedInAt null if never
 * @param usedAt when something was last done with it, by its owner or not; null if never
 * @param days for how long at least
 * @param seats it takes all the while
 * @param exempt why it is to stay as it is; null if nothing says so
 * @param stillNeeded what its owner or a manager was asked, and said; null if nobody was
 * @param askedAt when its application was asked
 */
public record DormantView(
    long account,
    String name,
    Long person,
    String displayName,
    String department,
    Instant signedInAt,
    Instant usedAt,
    long days,
    Set<String> seats,
    String exempt,
    String stillNeeded,
    Instant askedAt) {}
