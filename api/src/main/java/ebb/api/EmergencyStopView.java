package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * A person who is shut out of everything until that is lifted.
 *
 * @param changeSet what was ordered last
 * @param isShut whether sign-in and all other ways in are known to be shut everywhere
 */
public record EmergencyStopView(
    long person,
    String displayName,
    Instant since,
    String by,
    String reason,
    long changeSet,
    boolean isShut,
    List<EmergencyAccountView> accounts) {}
