package ebb.core.departure;

import ebb.core.person.PersonId;
import java.time.Instant;
import java.time.LocalDate;

/**
 * The case that takes accounts of a person from use to removal.
 *
 * @param closing whether it is only about accounts the person lost the entitlement to
 * @param lastDay the last day of use
 * @param recipient who gets what the accounts own; null while nobody is named
 * @param reason what brought it about
 */
public record Departure(
    long id,
    PersonId person,
    boolean closing,
    State state,
    LocalDate lastDay,
    PersonId recipient,
    String reason,
    Instant startedAt,
    Instant endedAt,
    long version) {
  public enum State {
    RUNNING,
    /** The person came back or got the entitlement again before the end. */
    TURNED_BACK,
    DONE;

    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }

  public Departure to(PersonId recipient) {
    return new Departure(
        id, person, closing, state, lastDay, recipient, reason, startedAt, endedAt, version);
  }

  public Departure ended(State how, Instant at) {
    return new Departure(
        id, person, closing, how, lastDay, recipient, reason, startedAt, at, version);
  }
}
