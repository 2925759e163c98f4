package ebb.core.change;

/** What brings a change set about. */
public enum Cause {
  /** A file that somebody brought in. */
  IMPORT,
  /** A delivery of a standing source. */
  FEED,
  HAND,
  TAKE_BACK,
  RULE,
  DATE,
  /** A reading of an application. */
  SYNC,
  /** The same, of an application in which what drifted is put right at once. */
  CORRECTION,
  DEPARTURE,
  ORDER,
  EMERGENCY;

  /**
   * Whether a change of this cause goes on without anybody's release. Deletions of a departure do:
   * its gates are their release.
   */
  public boolean releases(ChangeKind kind) {
    return switch (this) {
      case DATE, FEED -> !kind.isDestructive();
      case CORRECTION ->
          switch (kind) {
            case CREATE, UPDATE, JOIN, TAKE_SEAT -> true;
            case OPEN,
                SUSPEND,
                RETURN,
                LEAVE,
                FREE_SEAT,
                CLOSE,
                DELETE,
                STRIP,
                RESET,
                SHUT,
                CATCH_UP ->
                false;
          };
      case DEPARTURE, ORDER, EMERGENCY -> true;
      case IMPORT, HAND, TAKE_BACK, RULE, SYNC -> false;
    };
  }

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
  }
}
