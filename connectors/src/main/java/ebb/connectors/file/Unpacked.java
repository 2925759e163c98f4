package ebb.connectors.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** How large a file may grow when it is unpacked. */
final class Unpacked {
  /** Lists of people shrink to a tenth or a thirtieth; only what repeats itself shrinks further. */
  private static final int MOST_TIMES = 100;

  /** Small files may hold much of the same: this does no harm. */
  private static final long ALWAYS = 64L << 20;

  /**
   * @param largest whatever the size of the file
   * @return bytes
   */
  static long most(Path file, long largest) throws IOException {
    return Math.min(largest, Math.max(ALWAYS, MOST_TIMES * Files.size(file)));
  }

  private Unpacked() {}
}
