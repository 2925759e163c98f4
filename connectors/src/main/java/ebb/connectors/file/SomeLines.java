package ebb.connectors.file;

import ebb.connectors.file.LineMarks.Mark;
import ebb.core.imports.Lines;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Some lines of a text, as if there were no others; what lies between them is hardly read. */
final class SomeLines extends ByBlocks {
  private static final int BLOCK = 8 * 1024;

  private final SeekableByteChannel text;
  private final LineMarks marks;
  private final List<Lines> wanted;

  /** After the byte before them: whether a line begins depends on it. */
  private final byte[] block = new byte[1 + BLOCK];

  private int at = 1;
  private int end = 1;

  /** Of the byte before the one at hand. */
  private long line = 1;

  private int next;

  /** Those whose lines were told, and how many lines they have together. */
  private int told;

  private long linesTold;

  /**
   * @param marks of all of the file
   * @param head given before those wanted
   * @param wanted in their order, none of them overlapping
   */
  SomeLines(Path file, LineMarks marks, Lines head, List<Lines> wanted) throws IOException {
    this.text = Files.newByteChannel(file);
    this.marks = marks;
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
  public int read(byte[] into, int from, int length) throws IOException {
    while (next < wanted.size() && (at < end || fill())) {
      var lines = wanted.get(next);
      var here = begins(at) ? line + 1 : line;
      if (here >= lines.to()) {
        next++;
      } else if (here < lines.from()) {
        approach(lines.from());
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
    block[0] = block[end - 1];
    at = 1;
    end = 1 + Math.max(0, text.read(ByteBuffer.wrap(block, 1, BLOCK)));
    return end > 1;
  }

  private void approach(long line) throws IOException {
    var mark = marks.before(line);
    if (mark.offset() >= text.position()) {
      leap(mark);
    } else {
      goOn(line, end);
    }
  }

  private void leap(Mark mark) throws IOException {
    text.position(mark.offset());
    line = mark.line() - 1;
    block[0] = '\n';
    at = 1;
    end = 1;
  }

  private boolean begins(int place) {
    return LineMarks.begins(block[place - 1], block[place]);
  }

  /** Goes on to where a line begins, but no further in the block than to a place. */
  private void goOn(long before, int place) {
    while (at + Long.BYTES <= place) {
      long begins = LineMarks.beginsAmong(block, at);
      int lines = Long.bitCount(begins);
      if (line + lines >= before) {
        break;
      }
      line += lines;
      at += Long.BYTES;
    }
    for (; at < place; at++) {
      if (begins(at)) {
        if (line + 1 >= before) {
          return;
        }
        line++;
      }
    }
  }

  @Override
  public void close() throws IOException {
    text.close();
  }
}
