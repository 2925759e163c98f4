package ebb.core.imports;

/** What is said of a row before anything is done. */
public enum Verdict {
  NEW,
  CHANGED,
  UNCHANGED,
  /** It differs from what is known, and the file may not change that. */
  LEFT_ALONE,
  /** Doubtful: waits for an answer. */
  SET_ASIDE,
  REFUSED;

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
  }
}
