package ebb.core.journal;

import ebb.core.person.PersonId;
import java.time.Instant;

/**
 * A deed, without the personal values: those are kept aside and only committed to here.
 *
 * @param id ascending, with gaps
 * @param actor operator, or "ebb" for what happens by itself
 * @param act what was done, in words: "released change set 4"
 * @param person null where no person is concerned
 * @param reason as the operator gave it; null if none was asked
 * @param commitment SHA-256 over salt and details, in hex; null where there are no details
 */
public record Entry(
    long id,
    Instant at,
    String actor,
    String act,
    PersonId person,
    String reason,
    String commitment) {}
