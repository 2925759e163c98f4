package ebb.store;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
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

  /** How long after a key was added every process seals with it. */
  public static final Duration SETTLES = Duration.ofSeconds(2);

  private static final SecureRandom RANDOM = new SecureRandom();

  /** What was drawn and not given out yet: drawing a little costs as much as drawing much. */
  private static final ThreadLocal<ByteBuffer> DRAWN =
      ThreadLocal.withInitial(() -> ByteBuffer.allocate(1024).limit(0));

  /** Finding one costs as much as sealing a line. */
  private static final ThreadLocal<Cipher> CIPHER = ThreadLocal.withInitial(SecretBox::cipher);

  /** Null where the keys are in no file. */
  private final Path file;

  /** The first one seals; what the others sealed can still be opened. */
  private volatile List<SecretKeySpec> keys;

  private volatile long lookedAt = System.nanoTime();

  public SecretBox(byte[] key) {
    this(null, List.of(spec(key)));
  }

  private SecretBox(Path file, List<SecretKeySpec> keys) {
    this.file = file;
    this.keys = keys;
  }

  /** The box whose key is in a file; the file is made, for its owner alone, if there is none. */
  public static SecretBox ofFile(Path file) throws IOException {
    if (Files.notExists(file)) {
      Files.createDirectories(file.getParent());
      write(file, List.of(newKey()));
    }
    return new SecretBox(file, read(file));
  }

  /**
   * Seals with a new key from now on; what was sealed before can still be opened.
   *
   * @throws IOException if the file cannot be written: nothing has changed then
   */
  public synchronized void addKey() throws IOException {
    var texts = new ArrayList<>(List.of(newKey()));
    texts.addAll(Files.readAllLines(file));
    write(file, texts);
    keys = read(file);
  }

  /** Opens only what the newest key sealed, from now on. */
  public synchronized void dropOldKeys() throws IOException {
    write(file, Files.readAllLines(file).subList(0, 1));
    keys = read(file);
  }

  /** In the place of the file there was, whole or not at all. */
  private static void write(Path file, List<String> texts) throws IOException {
    var owner = PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"));
    var next = Files.createTempFile(file.toAbsolutePath().getParent(), "secret", ".key", owner);
    try (var channel = FileChannel.open(next, StandardOpenOption.WRITE)) {
      var bytes = ByteBuffer.wrap(String.join("\n", texts).getBytes(StandardCharsets.US_ASCII));
      while (bytes.hasRemaining()) {
        channel.write(bytes);
      }
      channel.force(true);
    }
    Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }

  private static List<SecretKeySpec> read(Path file) throws IOException {
    return Files.readAllLines(file).stream()
        .map(String::strip)
        .filter(line -> !line.isEmpty())
        .map(line -> spec(Base64.getDecoder().decode(line)))
        .toList();
  }

  private static SecretKeySpec spec(byte[] key) {
    return new SecretKeySpec(key, "AES");
  }

  public static String newKey() {
    return Base64.getEncoder().encodeToString(random(KEY_BYTES));
  }

  public static byte[] random(int bytes) {
    var random = new byte[bytes];
    var drawn = DRAWN.get();
    if (bytes > drawn.capacity()) {
      RANDOM.nextBytes(random);
      return random;
    }
    if (bytes > drawn.remaining()) {
      RANDOM.nextBytes(drawn.array());
      drawn.clear();
    }
    drawn.mark().get(random).reset().put(new byte[bytes]);
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
    try {
      var nonce = random(NONCE_BYTES);
      var sealed =
          run(Cipher.ENCRYPT_MODE, newestKey(), nonce, text.getBytes(StandardCharsets.UTF_8));
      return Base64.getEncoder()
          .encodeToString(
              ByteBuffer.allocate(nonce.length + sealed.length).put(nonce).put(sealed).array());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("Every Java platform has AES", e);
    }
  }

  /**
   * @throws IllegalStateException if it was sealed under another key or altered since
   */
  public String open(String sealed) {
    var opened = openedBy(keys, sealed).or(() -> openedBy(keysNow(), sealed));
    return opened.orElseThrow(
        () -> new IllegalStateException("Sealed under another key, or altered"));
  }

  /** Another process may have added a key: none seals with an old one for longer than this. */
  private SecretKeySpec newestKey() {
    var now = System.nanoTime();
    if (file != null && now - lookedAt > SETTLES.toNanos() / 2) {
      lookedAt = now;
      return keysNow().getFirst();
    }
    return keys.getFirst();
  }

  private synchronized List<SecretKeySpec> keysNow() {
    if (file != null) {
      try {
        keys = read(file);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    return keys;
  }

  private static Optional<String> openedBy(List<SecretKeySpec> keys, String sealed) {
    var bytes = ByteBuffer.wrap(Base64.getDecoder().decode(sealed));
    var nonce = new byte[NONCE_BYTES];
    bytes.get(nonce);
    var rest = new byte[bytes.remaining()];
    bytes.get(rest);
    for (var key : keys) {
      try {
        return Optional.of(
            new String(run(Cipher.DECRYPT_MODE, key, nonce, rest), StandardCharsets.UTF_8));
      } catch (GeneralSecurityException _) {
        // Not sealed by this key: the tag says so.
      }
    }
    return Optional.empty();
  }

  private static Cipher cipher() {
    try {
      return Cipher.getInstance("AES/GCM/NoPadding");
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("Every Java platform has AES", e);
    }
  }

  private static byte[] run(int mode, SecretKeySpec key, byte[] nonce, byte[] input)
      throws GeneralSecurityException {
    var cipher = CIPHER.get();
    cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
    return cipher.doFinal(input);
  }
}
