package ebb.core.imports;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.SortedMap;

/** Tells whether a row says the same as last time without comparing value by value. */
public final class RowHash {
  /**
   * 128 bits over the values in the order of their attributes, in hex.
   *
   * @param mappingVersion an edited mapping makes every row count again
   */
  public static String of(SortedMap<String, String> values, long mappingVersion) {
    var digest = sha256();
    digest.update(Long.toString(mappingVersion).getBytes(StandardCharsets.UTF_8));
    values.forEach(
        (attribute, value) -> {
          digest.update((byte) 0);
          digest.update(attribute.getBytes(StandardCharsets.UTF_8));
          digest.update((byte) 1);
          digest.update(value.getBytes(StandardCharsets.UTF_8));
        });
    return HexFormat.of().formatHex(digest.digest(), 0, 16);
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }

  private RowHash() {}
}
