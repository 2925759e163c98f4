package ebb.core.imports;

import java.util.List;

/**
 * One line of a source, as it was read.
 *
 * @param line from 1, the heading being line 1
 */
public record Row(long line, List<String> cells) {
  /** Whether no cell holds anything: programs leave such lines below a table. */
  public boolean isBlank() {
    for (var cell : cells) {
      if (!cell.isBlank()) {
        return false;
      }
    }
    return true;
  }

  /** This row without empty cells beyond a width. */
  public Row within(int width) {
    int end = cells.size();
    while (end > width && cells.get(end - 1).isBlank()) {
      end--;
    }
    return end == cells.size() ? this : new Row(line, cells.subList(0, end));
  }
}
