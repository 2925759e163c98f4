package ebb.core.change;

/** What a change does to one account. The last three are orders, the others differences. */
public enum ChangeKind {
  CREATE,
  UPDATE,
  /** Access of a prepared account begins. */
  OPEN,
  SUSPEND,
  /** A suspended account is used again. */
  RETURN,
  JOIN,
  LEAVE,
  TAKE_SEAT,
  FREE_SEAT,
  /** Entitlement is lost: the account is suspended, and its closing begins. */
  CLOSE,
  /** Only a departure or closing asks for it, once its gates are open. */
  DELETE,
  /**
   * What is personal goes, and the account stays suspended. Asked for as a deletion is, where its
   * application says so.
   */
  STRIP,
  /** The password is made unusable and a new one asked for. */
  RESET,
  /** All sessions end, and every other way in is shut: tokens, device passwords, forwarding. */
  SHUT,
  /** What was made for a group earlier says of somebody what the group says of them now. */
  CATCH_UP;

  public boolean isOrder() {
    return this == RESET || this == SHUT || this == CATCH_UP;
  }

  /** Whether something is taken from somebody that is not simply given back. */
  public boolean isDestructive() {
    return this == CLOSE || endsAccount() || this == LEAVE || this == FREE_SEAT;
  }

  /** Whether it is what a departure ends with. */
  public boolean endsAccount() {
    return this == DELETE || this == STRIP;
  }

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
  }
}
