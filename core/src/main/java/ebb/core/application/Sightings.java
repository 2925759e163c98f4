package ebb.core.application;

import java.util.Set;

/** Takes what a reading of an application comes past. */
public interface Sightings {
  void account(ObservedAccount account);

  /** There is one with this id, and nothing of it changed since the reading before. */
  default void unchanged(String accountId) {}

  /** There is none with this id any more. */
  default void gone(String accountId) {}

  /** A group, as it is now. */
  default void group(ObservedGroup group) {}

  /** There is a group with this id, and nothing of it changed since the reading before. */
  default void groupUnchanged(String groupId) {}

  /**
   * Who is in a group that changed since the reading before; the accounts themselves need not have
   * changed. Not told in a reading of everything, as there each account says it.
   *
   * @param accountIds all of them; none where the group is gone
   */
  default void members(String group, Set<String> accountIds) {}

  /** There is no group with this id any more. */
  default void groupGone(String groupId) {}
}
