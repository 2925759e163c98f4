package ebb.api;

import java.util.List;

/**
 * Part of a list.
 *
 * @param next cursor of the next page; null at the end
 * @param total how many there are in all; null where that was not counted
 * @param moreThan how many there are at least, where counting all would take long; else null
 */
public record Listing<T>(List<T> items, String next, Long total, Long moreThan) {
  /** All there is. */
  public static <T> Listing<T> whole(List<T> items) {
    return new Listing<>(items, null, (long) items.size(), null);
  }

  /** A page of what was not counted. */
  public static <T> Listing<T> page(List<T> items, String next) {
    return new Listing<>(items, next, null, null);
  }
}
