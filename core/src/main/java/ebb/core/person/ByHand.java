package ebb.core.person;

import java.util.Locale;

/** Whether operators may say something else of an attribute than its sources do. */
public enum ByHand {
  /** Until they take it away again. */
  ALLOWED,
  /** Up to a day they name. */
  DATED,
  /** Its sources alone say it. */
  FORBIDDEN;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
