package ebb.service.pictures;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.util.unit.DataSize;

/** Keeps pictures beside the database, each once, under the SHA-256 of what it holds. */
@Component
public final class Pictures {
  /** Wider ones are for printing; and a small file may claim to be one that fills the memory. */
  private static final int LARGEST_SIDE = 4_096;

  private static final String AS_JPEG = "Save it as JPEG or PNG.";
  private static final int BUFFER = 64 * 1024;

  private final Path folder;
  private final DataSize largest;

  Pictures(@Value("${ebb.home}") Path home, @Value("${ebb.largest-picture}") DataSize largest)
      throws IOException {
    this.folder = Files.createDirectories(home.resolve("pictures"));
    this.largest = largest;
    // Pictures are read from files; a second copy on the disk serves nobody.
    ImageIO.setUseCache(false);
  }

  /** What is wrong with a picture, in words. */
  public record Amiss(String what, String remedy) {}

  /** Whether a file is a picture that can be taken; empty if so. */
  public Optional<Amiss> amiss(Path file) throws IOException {
    if (Files.size(file) > largest.toBytes()) {
      return Optional.of(
          new Amiss(
              "It has %,d kB; up to %,d kB are taken."
                  .formatted(Files.size(file) / 1024, largest.toKilobytes()),
              "Make it smaller, or raise ebb.largest-picture."));
    }
    return type(file).isEmpty()
        ? Optional.of(new Amiss("It is no JPEG or PNG.", AS_JPEG))
        : side(file);
  }

  /** Reads the header only: whoever sent it may have meant to fill the memory. */
  private static Optional<Amiss> side(Path file) throws IOException {
    try (var in = ImageIO.createImageInputStream(file.toFile())) {
      var readers = ImageIO.getImageReaders(in);
      if (!readers.hasNext()) {
        return Optional.of(new Amiss("It cannot be read as a picture.", AS_JPEG));
      }
      var reader = readers.next();
      try {
        reader.setInput(in, true, true);
        int side = Math.max(reader.getWidth(0), reader.getHeight(0));
        return side <= LARGEST_SIDE
            ? Optional.empty()
            : Optional.of(
                new Amiss(
                    "It is %,d points wide or high; up to %,d are taken."
                        .formatted(side, LARGEST_SIDE),
                    "Make it smaller."));
      } catch (IOException | RuntimeException _) {
        // Readers throw whatever a damaged file makes them trip over.
        return Optional.of(new Amiss("It is damaged.", AS_JPEG));
      } finally {
        reader.dispose();
      }
    }
  }

  /** The print under which a picture would be kept. */
  public static String print(Path file) throws IOException {
    var digest = sha256();
    var buffer = new byte[BUFFER];
    try (var in = new DigestInputStream(Files.newInputStream(file), digest)) {
      while (in.read(buffer) >= 0) {
        // Reading is what feeds the digest.
      }
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  /** Keeps a picture; one that is kept already stays as it is. */
  public void keep(Path file, String print) throws IOException {
    var to = path(print);
    if (!Files.exists(to)) {
      Files.createDirectories(to.getParent());
      var part =
          Files.copy(file, to.resolveSibling(print + ".part"), StandardCopyOption.REPLACE_EXISTING);
      Files.move(part, to, StandardCopyOption.ATOMIC_MOVE);
    }
  }

  /**
   * @return empty if it is not kept
   */
  public Optional<Path> of(String print) {
    return print != null && print.matches("[0-9a-f]{64}")
        ? Optional.of(path(print)).filter(Files::exists)
        : Optional.empty();
  }

  /** JPEG or PNG by its first bytes; empty for anything else, whatever its name says. */
  public static Optional<MediaType> type(Path file) {
    try (var in = Files.newInputStream(file)) {
      var head = HexFormat.of().formatHex(in.readNBytes(8));
      if (head.startsWith("ffd8ff")) {
        return Optional.of(MediaType.IMAGE_JPEG);
      }
      return head.equals("89504e470d0a1a0a") ? Optional.of(MediaType.IMAGE_PNG) : Optional.empty();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Path path(String print) {
    return folder.resolve(print.substring(0, 2)).resolve(print);
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }
}
