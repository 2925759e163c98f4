package ebb.connectors.file;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** In which encoding a text is written. */
final class Encoding {
  private static final int HEAD = 64 * 1024;

  /** How much of the head of a UTF-16 text of western letters is zero, at the least: a third. */
  private static final int SHARE_OF_ZEROS = 3;

  /**
   * Looks at all of it: the first accent may come in the last line.
   *
   * @return empty if it is no text in any encoding known here
   */
  static Optional<String> of(Path file) throws IOException {
    byte[] head;
    try (var in = Files.newInputStream(file)) {
      head = in.readNBytes(HEAD);
    }
    if (starts(head, 0xFF, 0xFE) || starts(head, 0xFE, 0xFF)) {
      return Optional.of("UTF-16");
    }
    if (zeros(head, 1) * SHARE_OF_ZEROS > head.length) {
      return Optional.of("UTF-16LE");
    }
    if (zeros(head, 0) * SHARE_OF_ZEROS > head.length) {
      return Optional.of("UTF-16BE");
    }
    if (isWholly(StandardCharsets.UTF_8, file)) {
      return Optional.of("UTF-8");
    }
    return isBinary(head) || !isWholly(Charset.forName("windows-1252"), file)
        ? Optional.empty()
        : Optional.of("windows-1252");
  }

  /** A reader that reports what is not of the encoding, where the usual ones put question marks. */
  static Reader reader(Path file, String charset) throws IOException {
    return reader(new BufferedInputStream(Files.newInputStream(file)), charset);
  }

  static Reader reader(InputStream bytes, String charset) {
    return new InputStreamReader(
        bytes,
        Charset.forName(charset)
            .newDecoder()
            .onMalformedInput(CodingErrorAction.REPORT)
            .onUnmappableCharacter(CodingErrorAction.REPORT));
  }

  /** The last byte tells, in each of the encodings; UTF-16 has a zero before or after it. */
  static boolean endsWithLineEnd(Path file) throws IOException {
    try (var channel = Files.newByteChannel(file)) {
      long size = channel.size();
      var last = ByteBuffer.allocate((int) Math.min(2, size));
      channel.position(size - last.capacity()).read(last);
      for (byte one : last.array()) {
        if (one == '\n' || one == '\r') {
          return true;
        }
      }
      return size == 0;
    }
  }

  private static boolean starts(byte[] head, int first, int second) {
    return head.length >= 2 && (head[0] & 0xFF) == first && (head[1] & 0xFF) == second;
  }

  private static int zeros(byte[] head, int from) {
    int zeros = 0;
    for (int i = from; i < head.length; i += 2) {
      zeros += head[i] == 0 ? 1 : 0;
    }
    return zeros;
  }

  /** Whether it begins with what no text holds. */
  static boolean isBinary(Path file) throws IOException {
    try (var in = Files.newInputStream(file)) {
      return isBinary(in.readNBytes(HEAD));
    }
  }

  private static boolean isBinary(byte[] head) {
    for (byte one : head) {
      if (one >= 0 && one < ' ' && one != '\t' && one != '\n' && one != '\r') {
        return true;
      }
    }
    return false;
  }

  private static boolean isWholly(Charset charset, Path file) throws IOException {
    var decoder = charset.newDecoder();
    var bytes = ByteBuffer.allocate(HEAD);
    var chars = CharBuffer.allocate(HEAD);
    try (InputStream in = Files.newInputStream(file)) {
      for (int read = 0; read >= 0; ) {
        read = in.read(bytes.array(), bytes.position(), bytes.remaining());
        bytes.limit(bytes.position() + Math.max(read, 0)).position(0);
        if (decoder.decode(bytes, chars.clear(), read < 0).isError()) {
          return false;
        }
        bytes.compact();
      }
    }
    return true;
  }

  private Encoding() {}
}
