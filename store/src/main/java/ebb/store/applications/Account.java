package ebb.store.applications;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.change.Finding;
import ebb.core.compare.HeldAccount;
import ebb.core.person.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;

/**
 * An account as last seen.
 *
 * @param person null while it is nobody's
 * @param grounds group to the reason for which Ebb put the account there
 * @param closing whether its closing is under way
 * @param leftAlone null where it is kept as it should be
 * @param strippedAt when what is personal was taken out of it; null if it was not, or is used again
 * @param likely whose it may be while it is nobody's, likeliest first; null if not looked at yet
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
    Instant strippedAt,
    List<Likely> likely,
    Instant seenAt) {
  public Account {
    likely = likely == null ? null : List.copyOf(likely);
  }

  /** What is found of it alone; empty where it is somebody's and kept, or gone. */
  public Optional<Finding> finding() {
    if (level == Level.GONE || (person != null && leftAlone == null)) {
      return Optional.empty();
    }
    if (leftAlone != null) {
      return Optional.of(Finding.LEFT_ALONE);
    }
    if (likely == null) {
      return Optional.of(Finding.UNLOOKED);
    }
    if (likely.isEmpty()) {
      return Optional.of(Finding.UNMATCHED);
    }
    return Optional.of(likely.getFirst().hasOne() ? Finding.DUPLICATE : Finding.DOUBTFUL);
  }

  public HeldAccount held() {
    return new HeldAccount(
        id, application, level, observed, grounds, closing, leftAlone != null, strippedAt != null);
  }

  public Account seen(Level level, ObservedAccount observed, Instant at) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, null, at);
  }

  public Account of(PersonId person) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, null, seenAt);
  }

  public Account closing(boolean closing) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, likely, seenAt);
  }

  public Account grounds(SortedMap<String, String> grounds) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, likely, seenAt);
  }

  public Account leftAlone(LeftAlone leftAlone) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, likely, seenAt);
  }

  /** Null where it is used again. */
  public Account strippedAt(Instant strippedAt) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, likely, seenAt);
  }

  public Account likely(List<Likely> likely) {
    return with(person, level, observed, grounds, closing, leftAlone, strippedAt, likely, seenAt);
  }

  private Account with(
      PersonId person,
      Level level,
      ObservedAccount observed,
      SortedMap<String, String> grounds,
      boolean closing,
      LeftAlone leftAlone,
      Instant strippedAt,
      List<Likely> likely,
      Instant seenAt) {
    return new Account(
        id,
        application,
        person,
        level,
        observed,
        grounds,
        closing,
        leftAlone,
        strippedAt,
        likely,
        seenAt);
  }
}
