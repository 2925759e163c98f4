package ebb.core.notice;

import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.Locale;

/**
 * A message to or about a person. Its text is made when it is sent, so that no link that opens
 * anything is ever kept.
 *
 * @param recipient a mail address; null where nobody can be reached
 * @param about the page of the console it leads to; null where it asks for something, or its reader
 *     is no operator
 * @param problem why it could not be sent last; null otherwise
 */
public record Notice(
    long id,
    PersonId person,
    Kind kind,
    String recipient,
    String subject,
    String about,
    State state,
    int attempts,
    Problem problem,
    Instant createdAt,
    Instant sentAt) {
  public enum Kind {
    /** Accounts are ready; asks for a password. */
    WELCOME,
    /** The password was reset; asks for a new one. */
    RESET,
    /** To a sponsor: somebody's last day is near; asks whether it is to be later. */
    ENDING,
    /** To the owner of an account, or to a manager: nobody signs in; asks whether it is needed. */
    STILL_NEEDED,
    /** To whom somebody's things are handed over; asks whether they take them. */
    HANDOVER,
    /** To a manager: somebody has left, and what happens now. */
    DEPARTURE_BEGUN,
    /** To a manager: an account that is to be deleted can be restored for some days more. */
    RESTORE_ENDS,
    /** To a manager: nothing is left to be done for somebody who left. */
    DEPARTURE_DONE,
    /** To an operator: what they began and did not wait for is done. */
    DONE,
    /** To an operator: something nobody began stands still, and needs one of them. */
    NEEDED;

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    /** Whether it asks its reader for something, with a link that works once. */
    public boolean asks() {
      return switch (this) {
        case WELCOME, RESET, ENDING, STILL_NEEDED, HANDOVER -> true;
        case DEPARTURE_BEGUN, RESTORE_ENDS, DEPARTURE_DONE, DONE, NEEDED -> false;
      };
    }
  }

  public enum State {
    WAITING,
    SENT,
    /** Nobody can be reached: an operator must hand it over otherwise. */
    UNDELIVERABLE;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }
}
