package ebb.connectors.file;

import ebb.core.imports.Lines;
import java.io.IOException;
import java.io.InputStream;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/**
 * Some lines of a text, as if there were no others. A line ends with LF, CR or both, whether or not
 * within quotation marks, as {@link CsvRows} counts them.
 */
final class SomeLines extends InputStream {
  private static final int BLOCK = 64 * 1024;
  private static final long ONES = 0x0101010101010101L;
  private static final VarHandle EIGHT =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.nativeOrder());

  private final InputStream text;
  private final List<Lines> wanted;
  private final byte[] block = new byte[BLOCK];
  private int at;
  private int end;

  /** Of the byte before the one at hand. */
  private long line = 1;

  private byte last;
  private int next;

  /** Those whose lines were told, and how many lines they have together. */
  private int told;

  private long linesTold;

  /**
   * @param head given before those wanted
   * @param wanted in their order, none of them overlapping
   */
  SomeLines(InputStream text, Lines head, List<Lines> wanted) {
    this.text = text;
    this.wanted = new ArrayList<>(wanted.size() + 1);
    this.wanted.add(head);
    this.wanted.addAll(wanted);
  }

  /**
   * Which line of the whole text a line is that was given. Asked for in ascending order.
   *
   * @param given from 1, counted among those given
   */
  long whole(long given) {
    while (given - linesTold > length(wanted.get(told))) {
      linesTold += length(wanted.get(told++));
    }
    return wanted.get(told).from() + given - linesTold - 1;
  }

  private static long length(Lines lines) {
    return lines.to() - lines.from();
  }

  @Override
  public int read() throws IOException {
    var one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    while (next < wanted.size() && (at < end || fill())) {
      var lines = wanted.get(next);
      var here = beginsLine(last, block[at]) ? line + 1 : line;
      if (here >= lines.to()) {
        next++;
      } else if (here < lines.from()) {
        goOn(lines.from(), end);
      } else {
        int begin = at;
        goOn(lines.to(), Math.min(end, at + length));
        System.arraycopy(block, begin, into, from, at - begin);
        return at - begin;
      }
    }
    return -1;
  }

  private boolean fill() throws IOException {
    at = 0;
    end = Math.max(0, text.read(block));
    return end > 0;
  }

  private static boolean beginsLine(byte last, byte one) {
    return last == '\n' || last == '\r' && one != '\n';
  }

  /** Goes on to where a line begins, but no further in the block than to a place. */
  private void goOn(long before, int place) {
    int here = at;
    byte seen = last;
    while (here < place) {
      if (beginsLine(seen, block[here])) {
        if (line + 1 >= before) {
          break;
        }
        line++;
      }
      int end = endOfLine(here, place);
      here = Math.min(end + 1, place);
      seen = block[here - 1];
    }
    at = here;
    last = seen;
  }

  /** The place of the next LF or CR. Eight at a time: a file has a hundred million bytes. */
  private int endOfLine(int here, int place) {
    int at = here;
    while (at + Long.BYTES <= place && !hasEnd((long) EIGHT.get(block, at))) {
      at += Long.BYTES;
    }
    while (at < place && block[at] != '\n' && block[at] != '\r') {
      at++;
    }
    return at;
  }

  /** Whether one of eight bytes is LF or CR: what is equal becomes zero, and zero borrows. */
  private static boolean hasEnd(long eight) {
    long feed = eight ^ ONES * '\n';
    long carriage = eight ^ ONES * '\r';
    return ((feed - ONES & ~feed | carriage - ONES & ~carriage) & ONES << 7) != 0;
  }

  @Override
  public void close() throws IOException {
    text.close();
  }
}
