package ebb.connectors.file;

import java.io.IOException;
import java.io.InputStream;

/** Bytes that are read in blocks; one byte is a block of one. */
abstract class ByBlocks extends InputStream {
  @Override
  public int read() throws IOException {
    var one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
  }

  @Override
  public abstract int read(byte[] into, int from, int length) throws IOException;
}
