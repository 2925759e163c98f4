package ebb.core.journal;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * The hash chain over the journal. Each seal covers its entry and the seal before it, so that an
 * entry changed, taken out or put in breaks every seal after it.
 */
public final class Chain {
  public static final String START = "0".repeat(64);

  /** Finding one costs half as much as what it is found for. */
  private static final ThreadLocal<MessageDigest> SHA_256 = ThreadLocal.withInitial(Chain::digest);

  /** The seal of an entry, in hex. */
  public static String seal(String before, Entry entry) {
    var bytes = new ByteArrayOutputStream();
    try (var out = new DataOutputStream(bytes)) {
      write(out, before);
      out.writeLong(entry.id());
      // Microseconds: what the database keeps of an instant.
      out.writeLong(entry.at().getEpochSecond());
      out.writeInt(entry.at().getNano() / 1000);
      write(out, entry.actor());
      write(out, entry.act());
      write(out, entry.person() == null ? null : entry.person().toString());
      write(out, entry.reason());
      write(out, entry.commitment());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return sha256(bytes.toByteArray());
  }

  /** A commitment that says nothing of the details to anyone without the salt. */
  public static String commitment(byte[] salt, String details) {
    var text = details.getBytes(StandardCharsets.UTF_8);
    var bytes = new byte[salt.length + text.length];
    System.arraycopy(salt, 0, bytes, 0, salt.length);
    System.arraycopy(text, 0, bytes, salt.length, text.length);
    return sha256(bytes);
  }

  private static void write(DataOutputStream out, String text) throws IOException {
    var bytes = text == null ? new byte[0] : text.getBytes(StandardCharsets.UTF_8);
    out.writeInt(text == null ? -1 : bytes.length);
    out.write(bytes);
  }

  private static String sha256(byte[] bytes) {
    return HexFormat.of().formatHex(SHA_256.get().digest(bytes));
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }

  private Chain() {}
}
