package ebb.core.departure;

import ebb.core.person.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Locale;

/**
 * The case that takes accounts of a person from use to removal.
 *
 * @param lastDay the last day of use
 * @param handOverFrom the day on which handing over begins
 * @param recipient who gets what the accounts own; null while nobody is named
 * @param reason what brought it about
 * @param asksReturn whether somebody has to say that they are not coming back
 * @param notReturning who said so, and why; null while nobody did
 * @param paused who stopped it for a time, and why; null while it goes on
 * @param accepted who said that they take what is handed over; null while nobody did
 * @param declined who said that they do not, and why; null after somebody else was named
 */
public record Departure(
    long id,
    PersonId person,
    Kind kind,
    State state,
    LocalDate lastDay,
    LocalDate handOverFrom,
    PersonId recipient,
    String reason,
    boolean asksReturn,
    String notReturning,
    String paused,
    String accepted,
    String declined,
    Instant startedAt,
    Instant endedAt,
    long version) {
  private static final String ORDERED = "ordered by %s: %s";

  /** The reason of one that somebody ordered. */
  public static String ordered(String by, String why) {
    return ORDERED.formatted(by, why);
  }

  public boolean isOrderedBy(String name) {
    return reason.startsWith(ORDERED.formatted(name, ""));
  }

  public enum Kind {
    /** Of a person who leaves, with all they have. */
    DEPARTURE,
    /** Of an account its person lost the entitlement to. */
    CLOSING,
    /** Of an account that is off, and that an operator ordered to be removed. */
    REMOVAL;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public enum State {
    RUNNING,
    /** The person came back, or is to have the account again, before the end. */
    TURNED_BACK,
    DONE;

    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** One that begins now. */
  public static Departure begun(
      long id,
      PersonId person,
      Kind kind,
      LocalDate lastDay,
      LocalDate handOverFrom,
      boolean asksReturn,
      PersonId recipient,
      String reason,
      Instant at) {
    return new Departure(
        id,
        person,
        kind,
        State.RUNNING,
        lastDay,
        handOverFrom,
        recipient,
        reason,
        asksReturn,
        null,
        null,
        null,
        null,
        at,
        null,
        1);
  }

  /** Whoever it is has not answered yet. */
  public Departure to(PersonId recipient) {
    return answered(recipient, null, null);
  }

  public Departure accepted(String by) {
    return answered(recipient, by, null);
  }

  /** Nobody is named then. */
  public Departure declined(String byAndWhy) {
    return answered(null, null, byAndWhy);
  }

  public Departure ended(State how, Instant at) {
    return with(how, lastDay, handOverFrom, notReturning, paused, at);
  }

  /** By other days. */
  public Departure moved(LocalDate lastDay, LocalDate handOverFrom) {
    return with(state, lastDay, handOverFrom, notReturning, paused, endedAt);
  }

  public Departure notReturning(String words) {
    return with(state, lastDay, handOverFrom, words, paused, endedAt);
  }

  /**
   * @param words null to let it go on
   */
  public Departure paused(String words) {
    return with(state, lastDay, handOverFrom, notReturning, words, endedAt);
  }

  private Departure answered(PersonId recipient, String accepted, String declined) {
    return new Departure(
        id,
        person,
        kind,
        state,
        lastDay,
        handOverFrom,
        recipient,
        reason,
        asksReturn,
        notReturning,
        paused,
        accepted,
        declined,
        startedAt,
        endedAt,
        version);
  }

  private Departure with(
      State state,
      LocalDate lastDay,
      LocalDate handOverFrom,
      String notReturning,
      String paused,
      Instant endedAt) {
    return new Departure(
        id,
        person,
        kind,
        state,
        lastDay,
        handOverFrom,
        recipient,
        reason,
        asksReturn,
        notReturning,
        paused,
        accepted,
        declined,
        startedAt,
        endedAt,
        version);
  }
}
