package ebb.connectors.file;

import java.util.List;

/** The first line of a table. */
final class Headings {
  /** Wider than any list of people; beyond it a separator was guessed wrongly. */
  static final int MOST = 500;

  /** Stripped, without empty ones at the end, which programs leave beside a table. */
  static List<String> of(String name, List<String> cells) {
    // A byte order mark is no part of the first heading.
    var headings = cells.stream().map(cell -> cell.replace("\uFEFF", "").strip()).toList();
    int end = headings.size();
    while (end > 0 && headings.get(end - 1).isEmpty()) {
      end--;
    }
    if (end == 0) {
      throw Amiss.empty(name);
    }
    if (end > MOST) {
      throw Amiss.tooManyColumns(name, end, MOST);
    }
    return headings.subList(0, end);
  }

  private Headings() {}
}
