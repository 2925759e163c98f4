package ebb.core.application;

/** The state of an account. */
public enum Level {
  /** Exists and cannot be used yet. */
  PREPARED,
  ACTIVE,
  SUSPENDED,
  /** Comes back until a day. */
  DELETED,
  GONE;

  public boolean exists() {
    return this == PREPARED || this == ACTIVE || this == SUSPENDED;
  }

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
