package ebb.api;

import java.util.List;

/**
 * Items made earlier for a group that do not follow it.
 *
 * @param applications those that can say which, and have the group
 */
public record EarlierItemsView(String group, List<StraysView> applications) {
  /**
   * @param problem why the application did not say; null if it did
   * @param strays the first of them
   * @param more whether there are more than these
   */
  public record StraysView(
      String application, ProblemView problem, List<StrayView> strays, boolean more) {}

  /**
   * An item that says something else of somebody than the group does.
   *
   * @param person null for an account that is nobody's
   * @param displayName null as well
   * @param named true if the item names them though they are not in the group any more; false if
   *     they came later, and it lacks them
   */
  public record StrayView(
      String kind, String name, Long person, String displayName, String account, boolean named) {}
}
