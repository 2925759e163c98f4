package ebb.connectors.carry;

import ebb.core.application.Ownership.Item;
import ebb.core.problem.Problem;

/** What may be amiss with an item, whatever its kind. */
public final class ItemProblems {
  public static Problem gone(Item item) {
    return new Problem(
        "item-gone",
        "%s is not there any more, or another by now.".formatted(item.name()),
        "It was moved, removed or changed after stock was taken.",
        "Retry: stock is taken anew, and what is there then is handed over.",
        null);
  }

  private ItemProblems() {}
}
