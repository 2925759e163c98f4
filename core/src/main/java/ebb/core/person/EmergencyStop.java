package ebb.core.person;

import java.time.Instant;

/**
 * A person who is shut out of everything until that is lifted, whatever any rule says.
 *
 * @param changeSet what was ordered last to bring it about
 */
public record EmergencyStop(
    PersonId person, Instant since, String by, String reason, long changeSet) {}
