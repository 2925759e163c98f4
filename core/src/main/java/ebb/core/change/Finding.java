package ebb.core.change;

import java.util.Collection;
import java.util.Locale;

/** In what an application does not agree with Ebb about an account; the most urgent first. */
public enum Finding {
  /** Off here, and on there. */
  ON_THERE,
  /** On here, and off there. */
  OFF_THERE,
  /** It should be there. */
  MISSING,
  /** A value or a membership is another one there. */
  DRIFTED,
  /** Nobody's, and like the account of somebody who has one there already. */
  DUPLICATE,
  /** Nobody's for certain, and like the accounts of people who have none there. */
  DOUBTFUL,
  /** Nobody's, and like nobody who is known. */
  UNMATCHED,
  /** Nobody's, and whose it may be is not looked at yet. */
  UNLOOKED,
  /** Left as it is, with a reason. */
  LEFT_ALONE;

  /**
   * What it is if these would put it right.
   *
   * @param kinds of steps that concern one account; at least one
   */
  public static Finding of(Collection<ChangeKind> kinds) {
    if (kinds.contains(ChangeKind.SUSPEND)) {
      return ON_THERE;
    }
    if (kinds.contains(ChangeKind.CREATE)) {
      return MISSING;
    }
    return kinds.contains(ChangeKind.OPEN) || kinds.contains(ChangeKind.RETURN)
        ? OFF_THERE
        : DRIFTED;
  }

  /** Whether it is about an account that should be somebody's and is not. */
  public boolean isOfNobody() {
    return this == DUPLICATE || this == DOUBTFUL || this == UNMATCHED || this == UNLOOKED;
  }

  /** Whether it is about somebody whose account is not as it should be. */
  public boolean isDrift() {
    return this == ON_THERE || this == OFF_THERE || this == MISSING || this == DRIFTED;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
