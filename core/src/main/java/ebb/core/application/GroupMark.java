package ebb.core.application;

import java.util.Locale;

/**
 * What was said of a group, in whichever applications it is: groups and roles of one name are one.
 *
 * @param risk how much harm whoever is in it can do; null if nobody said
 * @param scope what it opens, in words; null if nobody said
 * @param most accounts in use that may be in it, in one application; null for any number
 */
public record GroupMark(String name, Risk risk, String scope, Integer most) {
  /** How much harm can be done. */
  public enum Risk {
    LOW,
    HIGH,
    /** Full administrators: they can give themselves anything. */
    FULL;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** Whether it says nothing, and need not be kept. */
  public boolean isEmpty() {
    return risk == null && scope == null && most == null;
  }
}
