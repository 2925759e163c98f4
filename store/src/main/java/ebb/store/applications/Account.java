package ebb.store.applications;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.compare.HeldAccount;
import ebb.core.person.PersonId;
import java.time.Instant;
import java.util.SortedMap;

/**
 * An account as last seen.
 *
 * @param person null while it is nobody's
 * @param grounds group to the reason for which Ebb put the account there
 * @param closing whether its closing is under way
 * @param leftAlone null where it is kept as it should be
 */
public record Account(
    long id,
    String application,
    PersonId person,
    Level level,
    ObservedAccount observed,
    SortedMap<String, String> grounds,
    boolean closing,
    LeftAlone leftAlone,
    Instant seenAt) {
  /** Whether it is there, nobody's, and not said to be technical. */
  public boolean isStranger() {
    return person == null && leftAlone == null && level != Level.GONE;
  }

  public HeldAccount held() {
    return new HeldAccount(id, application, level, observed, grounds, closing, leftAlone != null);
  }

  public Account seen(Level level, ObservedAccount observed, Instant at) {
    return new Account(id, application, person, level, observed, grounds, closing, leftAlone, at);
  }

  public Account of(PersonId person) {
    return new Account(
        id, application, person, level, observed, grounds, closing, leftAlone, seenAt);
  }

  public Account closing(boolean closing) {
    return new Account(
        id, application, person, level, observed, grounds, closing, leftAlone, seenAt);
  }

  public Account grounds(SortedMap<String, String> grounds) {
    return new Account(
        id, application, person, level, observed, grounds, closing, leftAlone, seenAt);
  }

  public Account leftAlone(LeftAlone leftAlone) {
    return new Account(
        id, application, person, level, observed, grounds, closing, leftAlone, seenAt);
  }
}
