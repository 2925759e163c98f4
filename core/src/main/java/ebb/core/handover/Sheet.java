package ebb.core.handover;

import ebb.core.application.Ownership.Item;
import java.util.Collection;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** The balance sheet of one account: what it owned when stock was taken, by kind. */
public record Sheet(Map<String, Line> lines) {
  /**
   * @param transferable whether the application can hand this kind over
   */
  public record Line(long count, long bytes, boolean transferable) {}

  public static Sheet of(Collection<Item> items) {
    return new Sheet(
        items.stream()
            .collect(
                Collectors.toMap(
                    Item::kind,
                    item -> new Line(1, item.bytes(), item.transferable()),
                    (one, other) ->
                        new Line(
                            one.count() + other.count(),
                            one.bytes() + other.bytes(),
                            one.transferable() && other.transferable()),
                    TreeMap::new)));
  }

  public long count() {
    return lines.values().stream().mapToLong(Line::count).sum();
  }

  /** Kinds that are there and cannot be handed over by the application. */
  public Collection<String> uncovered() {
    return lines.entrySet().stream()
        .filter(line -> !line.getValue().transferable())
        .map(Map.Entry::getKey)
        .toList();
  }
}
