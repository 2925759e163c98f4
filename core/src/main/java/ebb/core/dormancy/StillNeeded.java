package ebb.core.dormancy;

import ebb.core.person.PersonId;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;

/**
 * Whether an account that nobody signs in to is still needed: what was asked last, and the answer.
 *
 * @param askedOf the address that was asked
 * @param until the last day for an answer; from the day after, silence says no
 * @param answeredAt null while it is open
 */
public record StillNeeded(
    long account,
    PersonId person,
    String application,
    String askedOf,
    String askedBy,
    Instant askedAt,
    LocalDate until,
    Answer answer,
    Instant answeredAt) {
  public enum Answer {
    OPEN,
    NEEDED,
    /** Said, and not carried out yet. */
    NOT_NEEDED,
    /** Said, and the account switched off. */
    GIVEN_UP,
    /** Nobody answered, and the account was switched off. */
    SILENT,
    /** Its owner signed in instead, or it is not in use any more. */
    SETTLED
  }

  /** One that is asked now. */
  public static StillNeeded asked(
      long account,
      PersonId person,
      String application,
      String askedOf,
      String askedBy,
      Instant at,
      LocalDate until) {
    return new StillNeeded(
        account, person, application, askedOf, askedBy, at, until, Answer.OPEN, null);
  }

  /** Whether somebody needs it: said no longer ago than an account may be idle. */
  public boolean isNeeded(Instant now, Duration idle) {
    return answer == Answer.NEEDED && now.isBefore(answeredAt.plus(idle));
  }

  public StillNeeded answered(Answer how, Instant at) {
    return new StillNeeded(account, person, application, askedOf, askedBy, askedAt, until, how, at);
  }
}
