package ebb.core.journal;

import java.nio.ByteBuffer;
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
    var sha = SHA_256.get();
    put(sha, before);
    sha.update(fixed(entry));
    put(sha, entry.actor());
    put(sha, entry.act());
    put(sha, entry.person() == null ? null : entry.person().toString());
    put(sha, entry.reason());
    put(sha, entry.commitment());
    return HexFormat.of().formatHex(sha.digest());
  }

  /** A commitment that says nothing of the details to anyone without the salt. */
  public static String commitment(byte[] salt, String details) {
    var sha = SHA_256.get();
    sha.update(salt);
    return HexFormat.of().formatHex(sha.digest(details.getBytes(StandardCharsets.UTF_8)));
  }

  private static ByteBuffer fixed(Entry entry) {
    return ByteBuffer.allocate(2 * Long.BYTES + Integer.BYTES)
        .putLong(entry.id())
        .putLong(entry.at().getEpochSecond())
        // Microseconds: what the database keeps of an instant.
        .putInt(entry.at().getNano() / 1000)
        .flip();
  }

  /** With its length before it, so that no two entries give the same bytes. */
  private static void put(MessageDigest sha, String text) {
    var bytes = text == null ? new byte[0] : text.getBytes(StandardCharsets.UTF_8);
    sha.update(ByteBuffer.allocate(Integer.BYTES).putInt(text == null ? -1 : bytes.length).flip());
    sha.update(bytes);
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
