package ebb.core.guard;

import ebb.core.change.ChangeKind;
import java.util.Locale;
import java.util.Optional;

/** What a change may take from an account: what the guard counts, over time. */
public enum Taken {
  SUSPEND("be suspended"),
  CLOSE("be closed"),
  DELETE("be deleted"),
  STRIP("be stripped of what is personal"),
  LEAVE("leave a group"),
  FREE_SEAT("lose a seat"),
  RENAME("have another login");

  private final String words;

  Taken(String words) {
    this.words = words;
  }

  /** As it follows "would". */
  String words() {
    return words;
  }

  String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /**
   * What a change takes; empty for one that takes nothing.
   *
   * @param renames whether it gives the account another login
   */
  public static Optional<Taken> by(ChangeKind kind, boolean renames) {
    return switch (kind) {
      case SUSPEND -> Optional.of(SUSPEND);
      case CLOSE -> Optional.of(CLOSE);
      case DELETE -> Optional.of(DELETE);
      case STRIP -> Optional.of(STRIP);
      case LEAVE -> Optional.of(LEAVE);
      case FREE_SEAT -> Optional.of(FREE_SEAT);
      case UPDATE -> renames ? Optional.of(RENAME) : Optional.empty();
      case CREATE, OPEN, RETURN, JOIN, TAKE_SEAT, RESET, SHUT, CATCH_UP -> Optional.empty();
    };
  }
}
