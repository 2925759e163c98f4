package ebb.connectors.file;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * Where in a file some of its lines begin, noted as it is read. A line ends with LF, CR or both,
 * whether or not within quotation marks, as {@link CsvRows} counts them.
 */
final class LineMarks {
  private static final long ONES = 0x0101010101010101L;
  private static final long LOW_BITS = 0x7F7F7F7F7F7F7F7FL;
  private static final VarHandle EIGHT =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

  private long[] lines = new long[1 << 10];
  private long[] offsets = new long[1 << 10];
  private int size;

  /** How much was noted, the line of its last byte, and that byte. */
  private long offset;

  private long line = 1;
  private byte last;

  /**
   * A place in a file.
   *
   * @param line from 1
   * @param offset of its first byte
   */
  record Mark(long line, long offset) {}

  /** Whether a line begins with a byte that comes after another. */
  static boolean begins(byte before, byte one) {
    return before == '\n' || before == '\r' && one != '\n';
  }

  /**
   * The high bit of each of eight bytes with which a line begins, the first being the lowest: a
   * file has a hundred million bytes.
   *
   * @param place of the first, after another byte
   */
  static long beginsAmong(byte[] block, int place) {
    long before = (long) EIGHT.get(block, place - 1);
    return areAllHigh(before)
        ? 0
        : are('\n', before) | are('\r', before) & ~are('\n', (long) EIGHT.get(block, place));
  }

  /** Notes what of the file comes next. */
  void note(byte[] block, int from, int to) {
    int first = begins(last, block[from]) ? from : to;
    long here = first == from ? line + 1 : line;
    int place = from + 1;
    for (; place + Long.BYTES <= to; place += Long.BYTES) {
      long begins = beginsAmong(block, place);
      if (begins != 0) {
        first = Math.min(first, place + Long.numberOfTrailingZeros(begins) / Byte.SIZE);
        here += Long.bitCount(begins);
      }
    }
    for (; place < to; place++) {
      if (begins(block[place - 1], block[place])) {
        first = Math.min(first, place);
        here++;
      }
    }
    if (first < to) {
      add(line + 1, offset + first - from);
    }
    offset += to - from;
    line = here;
    last = block[to - 1];
  }

  /** The last mark that is not beyond a line. */
  Mark before(long line) {
    int found = Arrays.binarySearch(lines, 0, size, line);
    int place = found < 0 ? -found - 2 : found;
    return place < 0 ? new Mark(1, 0) : new Mark(lines[place], offsets[place]);
  }

  private void add(long line, long offset) {
    if (size == lines.length) {
      lines = Arrays.copyOf(lines, 2 * size);
      offsets = Arrays.copyOf(offsets, 2 * size);
    }
    lines[size] = line;
    offsets[size++] = offset;
  }

  /** Whether none of eight bytes is LF or CR, as none is small; false may be mistaken. */
  private static boolean areAllHigh(long eight) {
    return (eight - ONES * ('\r' + 1) & ~eight & ~LOW_BITS) == 0;
  }

  /** The high bit of each of eight bytes that is this one: it alone is zero beside the other. */
  private static long are(char one, long eight) {
    long zero = eight ^ ONES * one;
    return ~((zero & LOW_BITS) + LOW_BITS | zero | LOW_BITS);
  }
}
