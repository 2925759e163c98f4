package ebb.core.application;

import java.time.Instant;
import java.util.Optional;

/** Asks an application when an account was last used by its owner. */
public interface Activity {
  /**
   * What was last seen of an account's owner.
   *
   * @param signedInAt null if never
   * @param usedAt when something was last done with it, signed in long before; null if never
   */
  record Use(Instant signedInAt, Instant usedAt) {}

  /** Empty if there is no such account. */
  Optional<Use> of(String accountId) throws Unreachable;
}
