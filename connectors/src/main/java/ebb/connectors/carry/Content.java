package ebb.connectors.carry;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * The content of one item on its way, with its checksum. What is larger than a few megabytes lies
 * in a file that only Ebb can read, and is gone when this is closed.
 */
public final class Content extends OutputStream {
  private static final int IN_MEMORY = 4 << 20;

  private final MessageDigest digest = digest();
  private ByteArrayOutputStream memory = new ByteArrayOutputStream();
  private Path file;
  private OutputStream out = memory;
  private long size;
  private String sha256;

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    if (file == null && size + length > IN_MEMORY) {
      file = Files.createTempFile("ebb-item", "");
      out = Files.newOutputStream(file);
      memory.writeTo(out);
      memory = null;
    }
    out.write(bytes, from, length);
    digest.update(bytes, from, length);
    size += length;
  }

  public long size() {
    return size;
  }

  /** In hex. Nothing can be written after it was asked for. */
  public String sha256() throws IOException {
    if (sha256 == null) {
      out.flush();
      sha256 = HexFormat.of().formatHex(digest.digest());
    }
    return sha256;
  }

  /** Reads it from its start. */
  public InputStream read() throws IOException {
    out.flush();
    return file == null
        ? new ByteArrayInputStream(memory.toByteArray())
        : Files.newInputStream(file);
  }

  public void writeTo(OutputStream to) throws IOException {
    out.flush();
    if (file == null) {
      memory.writeTo(to);
    } else {
      Files.copy(file, to);
    }
  }

  @Override
  public void close() throws IOException {
    out.close();
    if (file != null) {
      Files.deleteIfExists(file);
    }
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java has SHA-256", e);
    }
  }
}
