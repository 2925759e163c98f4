package ebb.core.application;

import java.util.List;
import java.util.Optional;

/**
 * Items an application made for those who were in a group at the time: meetings with everybody of
 * it, folders shared with them one by one. They do not follow when somebody joins or leaves.
 */
public interface EarlierItems {
  /**
   * @param kind as the application calls it: "meeting"
   * @param name for a person to recognise
   */
  record Item(String id, String kind, String name) {}

  /**
   * An item that says something else of an account than its group does.
   *
   * @param isNamed whether the item names an account that is not in the group any more; otherwise
   *     it lacks one that is
   */
  record Stray(Item item, String accountId, boolean isNamed) {}

  /**
   * Items made for a group, in no particular order; none if there is no such group.
   *
   * @param limit at most so many
   */
  List<Item> of(String group, int limit) throws Unreachable;

  /**
   * What does not follow a group, in no particular order; nothing if there is no such group.
   *
   * @param accountId of one account alone; empty for everybody's
   * @param limit at most so many
   */
  List<Stray> strays(String group, Optional<String> accountId, int limit) throws Unreachable;

  /** Has an item name an account, or not name it. Called twice, the second changes nothing. */
  void name(String group, String item, String accountId, boolean isNamed) throws Unreachable;
}
