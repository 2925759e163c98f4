package ebb.core.handover;

import ebb.core.application.Ownership.Item;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** The balance sheet of one account: what it owned when stock was taken, by kind. */
public record Sheet(Map<String, Line> lines) {
  private static final List<String> UNITS = List.of("B", "kB", "MB", "GB", "TB");

  /**
   * What is owned of one kind.
   *
   * @param uncovered how many of them the application cannot hand over
   */
  public record Line(long count, long bytes, long uncovered) {
    /** Whether there is anything to be handed over. */
    public boolean canBeHandedOver() {
      return count > uncovered;
    }
  }

  /** In units of a thousand, as storage is sold. */
  public static String size(long bytes) {
    var size = (double) bytes;
    var unit = 0;
    while (size >= 1_000 && unit < UNITS.size() - 1) {
      size /= 1_000;
      unit++;
    }
    return unit == 0 ? bytes + " B" : String.format(Locale.ROOT, "%.1f %s", size, UNITS.get(unit));
  }

  public static Sheet of(Collection<Item> items) {
    return new Sheet(
        items.stream()
            .collect(
                Collectors.toMap(
                    Item::kind,
                    item -> new Line(1, item.bytes(), item.transferable() ? 0 : 1),
                    (one, other) ->
                        new Line(
                            one.count() + other.count(),
                            one.bytes() + other.bytes(),
                            one.uncovered() + other.uncovered()),
                    TreeMap::new)));
  }

  public long count() {
    return lines.values().stream().mapToLong(Line::count).sum();
  }

  /** Kinds of which something cannot be handed over by the application. */
  public Collection<String> uncovered() {
    return lines.entrySet().stream()
        .filter(line -> line.getValue().uncovered() > 0)
        .map(Map.Entry::getKey)
        .toList();
  }
}
