package ebb.core.imports;

import java.util.Arrays;
import java.util.BitSet;

/**
 * What a first pass over a file leaves in memory: of each row its line, and the prints of its key
 * and its values; no text. Not for several threads.
 */
public final class Reading {
  private static final int WORDS = 4;
  private static final Print NO_KEY = Print.of("");

  private long[] prints = new long[WORDS * 1024];
  private long[] lines = new long[1024];
  private int size;

  /** How many rows there are. */
  public int size() {
    return size;
  }

  public void add(long line, Print key, Print row) {
    if (size == lines.length) {
      lines = Arrays.copyOf(lines, size * 2);
      prints = Arrays.copyOf(prints, WORDS * size * 2);
    }
    lines[size] = line;
    int at = WORDS * size;
    prints[at] = key.high();
    prints[at + 1] = key.low();
    prints[at + 2] = row.high();
    prints[at + 3] = row.low();
    size++;
  }

  public long line(int row) {
    return lines[row];
  }

  public Print key(int row) {
    return new Print(prints[WORDS * row], prints[WORDS * row + 1]);
  }

  public boolean hasKey(int row) {
    return !key(row).equals(NO_KEY);
  }

  public Print print(int row) {
    return new Print(prints[WORDS * row + 2], prints[WORDS * row + 3]);
  }

  /**
   * Which rows must be looked at: all that are not word for word as they were when they were last
   * taken in. Notes in the table which line names each key.
   */
  public BitSet compare(KeyTable keys) {
    var different = new BitSet(size);
    for (int row = 0; row < size; row++) {
      var isFirst = !hasKey(row) || keys.name(key(row), lines[row]) == 0;
      if (!isFirst || !keys.isSame(key(row), print(row))) {
        different.set(row);
      }
    }
    return different;
  }
}
