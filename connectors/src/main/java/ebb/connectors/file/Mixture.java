package ebb.connectors.file;

import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;

/**
 * A text that is UTF-8 (RFC 3629) in some places and cannot be it in others: damaged, or joined
 * from two. Any reading of it spoils somebody's name.
 *
 * @param line the first that holds a byte that is not UTF-8, from 1
 * @param column of that byte, in characters from 1
 * @param asUtf8 a word with a letter beyond ASCII, read as UTF-8
 * @param asWindows the same word read as windows-1252
 */
record Mixture(long line, long column, String asUtf8, String asWindows) {
  static final Charset WINDOWS = Charset.forName("windows-1252");

  private static final int LONGEST_WORD = 60;

  /** Two, three and four bytes; the first of two is at least this, as less would be overlong. */
  private static final int FIRST_OF_TWO = 0xC2;

  private static final int FIRST_OF_THREE = 0xE0;
  private static final int FIRST_OF_FOUR = 0xF0;
  private static final int PAST_ALL = 0xF5;

  /**
   * @return empty if the text is UTF-8 everywhere or nowhere
   */
  static Optional<Mixture> in(Path file) throws IOException {
    var scan = new Scan();
    try (var in = new BufferedInputStream(Files.newInputStream(file))) {
      for (int one = in.read(); one >= 0 && !scan.isSettled(); one = in.read()) {
        if (one < 0x80) {
          scan.ascii(one);
          continue;
        }
        in.mark(LONGEST_WORD);
        var letter = letter(one, in);
        if (letter.isEmpty()) {
          in.reset();
        }
        scan.beyondAscii(letter.orElse(new byte[] {(byte) one}), letter.isPresent());
      }
    }
    scan.endWord();
    return scan.isSettled() ? Optional.of(scan.found()) : Optional.empty();
  }

  private static Optional<byte[]> letter(int first, BufferedInputStream rest) throws IOException {
    int length =
        first < FIRST_OF_TWO || first >= PAST_ALL
            ? 1
            : first < FIRST_OF_THREE ? 2 : first < FIRST_OF_FOUR ? 3 : 4;
    var letter = new byte[length];
    letter[0] = (byte) first;
    int read = rest.readNBytes(letter, 1, length - 1);
    var isWhole = length > 1 && read == length - 1;
    return isWhole && Arrays.equals(text(letter).getBytes(StandardCharsets.UTF_8), letter)
        ? Optional.of(letter)
        : Optional.empty();
  }

  private static String text(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  private static final class Scan {
    private final ByteArrayOutputStream word = new ByteArrayOutputStream();
    private long line = 1;
    private long column = 1;
    private boolean isAfterReturn;
    private boolean hasLetter;
    private byte[] sample;
    private long badLine;
    private long badColumn;

    boolean isSettled() {
      return badLine > 0 && sample != null;
    }

    Mixture found() {
      return new Mixture(badLine, badColumn, text(sample), new String(sample, WINDOWS));
    }

    void ascii(int one) {
      if (Character.isLetterOrDigit(one)) {
        add((byte) one);
      } else {
        endWord();
      }
      var isReturn = one == '\r';
      if (isReturn || (one == '\n' && !isAfterReturn)) {
        line++;
        column = 1;
      } else if (one != '\n') {
        column++;
      }
      isAfterReturn = isReturn;
    }

    void beyondAscii(byte[] bytes, boolean isUtf8) {
      for (byte one : bytes) {
        add(one);
      }
      hasLetter |= isUtf8;
      if (!isUtf8 && badLine == 0) {
        badLine = line;
        badColumn = column;
      }
      column++;
      isAfterReturn = false;
    }

    private void add(byte one) {
      if (word.size() < LONGEST_WORD) {
        word.write(one);
      }
    }

    void endWord() {
      if (hasLetter && sample == null) {
        sample = word.toByteArray();
      }
      word.reset();
      hasLetter = false;
    }
  }
}
