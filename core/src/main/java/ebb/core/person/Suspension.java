package ebb.core.person;

import java.time.LocalDate;
import java.util.Locale;
import java.util.Set;

/**
 * An order that keeps a person out of applications for a time. What they hold there stays theirs.
 *
 * @param note for those who look at it later; null for none
 * @param until the last day included; null until somebody ends it
 * @param applications those meant; empty for all
 * @param review the day on which somebody looks whether it has still to be; null for none
 * @param discreet whether its reason is seen only by operators with that right
 * @param notices whether what Ebb writes to them goes on meanwhile, to their private address
 */
public record Suspension(
    long id,
    PersonId person,
    Reason reason,
    String note,
    LocalDate from,
    LocalDate until,
    Set<String> applications,
    LocalDate review,
    boolean discreet,
    boolean notices,
    String by) {
  /** How the ground of what follows from any suspension begins. */
  public static final String GROUND = "suspension ";

  public enum Reason {
    LEAVE,
    INQUIRY,
    /** Whoever comes back each year. */
    SEASON,
    /** Nobody signs in any more. */
    DORMANT,
    OTHER;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public Suspension {
    applications = Set.copyOf(applications);
  }

  public boolean isInForceOn(LocalDate day) {
    return !day.isBefore(from) && (until == null || !day.isAfter(until));
  }

  public boolean covers(String application) {
    return applications.isEmpty() || applications.contains(application);
  }

  /** By which its changes are known. */
  public String ground() {
    return GROUND + id;
  }

  /** The same up to another day, as another order. */
  public Suspension until(long number, LocalDate last, LocalDate lookedAt, String who) {
    return new Suspension(
        number, person, reason, note, from, last, applications, lookedAt, discreet, notices, who);
  }

  /** The same order for another person. */
  public Suspension of(PersonId other, long number) {
    return new Suspension(
        number, other, reason, note, from, until, applications, review, discreet, notices, by);
  }
}
