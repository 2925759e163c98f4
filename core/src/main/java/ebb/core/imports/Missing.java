package ebb.core.imports;

import ebb.core.person.PersonId;

/** A person whom a complete file does not name any more. */
public record Missing(String key, PersonId person, Decision decision) {
  public enum Decision {
    /** Nothing happens. */
    UNDECIDED,
    LEAVER,
    STILL_HERE,
    /** Looked at, and still not known; nothing happens. */
    UNKNOWN;

    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }
}
