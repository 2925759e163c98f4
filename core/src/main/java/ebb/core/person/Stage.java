package ebb.core.person;

/** Where a person stands on a day, in their own time zone. */
public enum Stage {
  /** The first day lies ahead. */
  EXPECTED,
  PRESENT,
  /** On leave today. */
  AWAY,
  /** Here, with a last day that is known. */
  LEAVING,
  /** The last day is over, or no source asserts this person any more. */
  DEPARTED;

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
