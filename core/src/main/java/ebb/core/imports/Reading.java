package ebb.core.imports;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a first pass over a file leaves in memory: of each row its line, and the prints of its key
 * and its values; no text. Not for several threads.
 */
public final class Reading {
  /** Of each row: both halves of its key's print and of its own, and the line. */
  private static final int WORDS = 5;

  private static final int ROWS_A_BLOCK = 1 << 14;
  private static final Print NO_KEY = Print.of("");

  /** In blocks, so that nothing is copied while it grows. */
  private final List<long[]> blocks = new ArrayList<>();

  /** Prints of the keys that people had before, by row; mostly there are none. */
  private final Map<Integer, Print> formerKeys = new HashMap<>();

  /** Lines of rows that are compared with nothing, ascending. */
  private final List<Long> passedOver = new ArrayList<>();

  private final FoldedKeys folded = new FoldedKeys();

  /** Rows whose keys differ in capitals alone from that of another, with the line of that. */
  private final Map<Integer, Long> likeAnother = new HashMap<>();

  private int size;

  /** How many rows there are. */
  public int size() {
    return size;
  }

  /** Adds the next row; rows come in the order of their lines. */
  public void add(long line, Print key, Print row) {
    if (size % ROWS_A_BLOCK == 0) {
      blocks.add(new long[WORDS * ROWS_A_BLOCK]);
    }
    var block = blocks.getLast();
    int at = WORDS * (size++ % ROWS_A_BLOCK);
    block[at] = key.high();
    block[at + 1] = key.low();
    block[at + 2] = row.high();
    block[at + 3] = row.low();
    block[at + 4] = line;
  }

  /**
   * Notes that the next row is compared with nothing. It is none of the rows here, but must not be
   * taken for part of the one before it.
   */
  public void passOver(long line) {
    passedOver.add(line);
  }

  /** Notes that the row that was added last names the key its person had before. */
  public void formerly(Print key) {
    formerKeys.put(size - 1, key);
  }

  /**
   * Notes the key of the row that was added last, whose letters may be written otherwise elsewhere.
   */
  public void folded(Print key) {
    int row = size - 1;
    int first = folded.first(key.low(), row);
    if (first != row && !key(first).equals(key(row))) {
      likeAnother.putIfAbsent(first, line(row));
      likeAnother.put(row, line(first));
    }
  }

  /** The line whose key differs in capitals alone from that of this line; 0 if none does. */
  public long lineLike(long line) {
    return likeAnother.isEmpty() ? 0 : likeAnother.getOrDefault(row(line), 0L);
  }

  /** The row of a line that was added. */
  private int row(long line) {
    int low = 0;
    for (int high = size - 1; low < high; ) {
      int middle = (low + high) >>> 1;
      if (line(middle) < line) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** Makes new keys stand for the people who had others; once all rows were added and named. */
  private void rekey(KeyTable keys) {
    for (int row = 0; row < size && !formerKeys.isEmpty(); row++) {
      var former = formerKeys.get(row);
      if (former != null && hasKey(row) && keys.line(key(row)) == line(row)) {
        keys.rekey(former, key(row));
      }
    }
  }

  public long line(int row) {
    return word(row, 4);
  }

  public Print key(int row) {
    return new Print(word(row, 0), word(row, 1));
  }

  public boolean hasKey(int row) {
    return !key(row).equals(NO_KEY);
  }

  private Print print(int row) {
    return new Print(word(row, 2), word(row, 3));
  }

  private long word(int row, int which) {
    return blocks.get(row / ROWS_A_BLOCK)[WORDS * (row % ROWS_A_BLOCK) + which];
  }

  /**
   * The lines that some of the rows take up, in their order, rows that follow each other as one.
   */
  public List<Lines> lines(BitSet rows) {
    var lines = new ArrayList<Lines>();
    for (int from = rows.nextSetBit(0); from >= 0; ) {
      int last = from;
      while (rows.get(last + 1) && end(last) == line(last + 1)) {
        last++;
      }
      lines.add(new Lines(line(from), end(last)));
      from = rows.nextSetBit(last + 1);
    }
    return lines;
  }

  /** The line at which whatever follows a row begins. */
  private long end(int row) {
    long end = row + 1 < size ? line(row + 1) : Long.MAX_VALUE;
    // The line of a row that was added is none of those passed over: where it would stand is found.
    int after = -1 - Collections.binarySearch(passedOver, line(row));
    return after < passedOver.size() ? Math.min(end, passedOver.get(after)) : end;
  }

  /**
   * The rows beside what is known of their keys.
   *
   * @param different the rows that must be looked at: all that are not word for word as they were
   *     when they were last taken in, or that share their key with one that says something else
   * @param withoutKey rows that have none
   * @param doubled rows whose key an earlier one has too
   * @param strangers rows whose key was never let through
   */
  public record Compared(BitSet different, long withoutKey, long doubled, long strangers) {}

  /** The rows that are not word for word as they were when they were last taken in. */
  public BitSet unlike(KeyTable keys) {
    var unlike = new BitSet(size);
    for (int row = 0; row < size; row++) {
      if (!keys.isSame(key(row), print(row))) {
        unlike.set(row);
      }
    }
    return unlike;
  }

  /**
   * Compares all rows, and notes in the table which line names each key.
   *
   * @param unlike as {@link #unlike} found them
   */
  public Compared compare(KeyTable keys, BitSet unlike) {
    var again = new BitSet(size);
    var firsts = new BitSet(size);
    likeAnother.keySet().forEach(firsts::set);
    long withoutKey = 0;
    long doubled = 0;
    for (int row = 0; row < size; row++) {
      if (!hasKey(row)) {
        withoutKey++;
        again.set(row);
        continue;
      }
      long before = keys.name(key(row), line(row));
      if (before != 0) {
        doubled++;
        again.set(row);
        int first = row(before);
        if (!print(first).equals(print(row))) {
          keys.nameAgain(key(row), line(row));
          firsts.set(first);
        }
      }
    }
    rekey(keys);
    long strangers =
        unlike.stream().filter(row -> !again.get(row) && !keys.isReleased(key(row))).count();
    again.or(firsts);
    again.or(unlike);
    return new Compared(again, withoutKey, doubled, strangers);
  }
}
