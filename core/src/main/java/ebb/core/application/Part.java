package ebb.core.application;

import java.util.Locale;

/** Something an application may be able to do, and others not. */
public enum Part {
  /** Memberships of groups can be read and set. */
  GROUPS("members of groups are kept by hand there"),
  /** A password can be set. */
  PASSWORDS("resets and first passwords are done by hand there"),
  /** It says what an account owns, and hands it over. */
  OWNERSHIP("deletions wait until somebody says by name that nothing is lost"),
  /** It says what refers to an account. */
  REFERENCES("deletions wait until somebody says by name that nothing refers to the account"),
  /** It says which ways in are still open to a suspended account. */
  WAYS_IN("whether a suspended account is really shut is not known"),
  /** It says who is signed in, and ends that. */
  SESSIONS("whoever is signed in stays so after a suspension"),
  /** It says when an account was last used by its owner. */
  ACTIVITY("idle accounts and seats are not found"),
  /** It answers by itself whoever writes to an account. */
  REPLIES("whoever writes to somebody who has left gets no answer"),
  /** It says which items were made for a group, and lets them be put right. */
  EARLIER_ITEMS("what was made for a group before does not follow, and nobody says so"),
  /** Accounts take seats, as its settings say. */
  SEATS("seats are neither given nor counted"),
  /** A deleted account can be brought back by the application itself. */
  RESTORE("a deleted account comes back only as a new one");

  private final String without;

  Part(String without) {
    this.without = without;
  }

  /** What one has to live with where an application cannot do it. */
  public String without() {
    return without;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
