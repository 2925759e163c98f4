package ebb.store;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Encrypts what must not be read from the database file alone: AES-256 in GCM (NIST SP 800-38D).
 */
public final class SecretBox {
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BITS = 128;
  private static final SecureRandom RANDOM = new SecureRandom();

  private final SecretKeySpec key;

  public SecretBox(byte[] key) {
    this.key = new SecretKeySpec(key, "AES");
  }

  /** The box whose key is in a file; the file is made, for its owner alone, if there is none. */
  public static SecretBox ofFile(Path file) throws IOException {
    if (Files.notExists(file)) {
      Files.createDirectories(file.getParent());
      var owner =
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"));
      Files.createFile(file, owner);
      Files.writeString(file, newKey(), StandardOpenOption.SYNC);
    }
    return new SecretBox(Base64.getDecoder().decode(Files.readString(file).strip()));
  }

  public static String newKey() {
    return Base64.getEncoder().encodeToString(random(KEY_BYTES));
  }

  public static byte[] random(int bytes) {
    var random = new byte[bytes];
    RANDOM.nextBytes(random);
    return random;
  }

  /** SHA-256 is enough for what is random itself: there is nothing to guess. */
  public static String hash(String random) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256").digest(random.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }

  /** A text nobody can guess, fit for addresses and headers. */
  public static String randomText() {
    return Base64.getUrlEncoder().withoutPadding().encodeToString(random(KEY_BYTES));
  }

  public String seal(String text) {
    var nonce = random(NONCE_BYTES);
    var sealed = run(Cipher.ENCRYPT_MODE, nonce, text.getBytes(StandardCharsets.UTF_8));
    return Base64.getEncoder()
        .encodeToString(
            ByteBuffer.allocate(nonce.length + sealed.length).put(nonce).put(sealed).array());
  }

  /**
   * @throws IllegalStateException if it was sealed under another key or altered since
   */
  public String open(String sealed) {
    var bytes = ByteBuffer.wrap(Base64.getDecoder().decode(sealed));
    var nonce = new byte[NONCE_BYTES];
    bytes.get(nonce);
    var rest = new byte[bytes.remaining()];
    bytes.get(rest);
    return new String(run(Cipher.DECRYPT_MODE, nonce, rest), StandardCharsets.UTF_8);
  }

  private byte[] run(int mode, byte[] nonce, byte[] input) {
    try {
      var cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
      return cipher.doFinal(input);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("Sealed under another key, or altered", e);
    }
  }
}
