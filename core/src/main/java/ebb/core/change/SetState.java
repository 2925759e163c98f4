package ebb.core.change;

/** Where a change set stands. Stored by its word. */
public enum SetState {
  /** Inputs are being gathered and computed; it cannot be released yet. */
  DRAFT,
  SHOWN,
  /** Released; its inputs are being taken in, part by part. */
  RELEASING,
  RELEASED,
  /** Given up before release. */
  DISCARDED;

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
