package ebb.service.imports;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.util.unit.DataSize;

/** Keeps what is uploaded on the disk while it is read, and no longer. */
@Component
final class Uploads {
  private final Path folder;
  private final DataSize largest;

  Uploads(@Value("${ebb.home}") Path home, @Value("${ebb.largest-upload}") DataSize largest)
      throws IOException {
    this.folder = Files.createDirectories(home.resolve("uploads"));
    this.largest = largest;
  }

  /** A file on the disk, deleted when closed. */
  record Upload(Path path, String sha256) implements Closeable {
    @Override
    public void close() throws IOException {
      Files.deleteIfExists(path);
    }
  }

  /**
   * @throws Refusal if it is larger than the limit; no more than that is ever read
   */
  Upload keep(InputStream body, String name) throws IOException {
    var path = Files.createTempFile(folder, "upload-", ".csv");
    var digest = sha256();
    try (var in = new DigestInputStream(body, digest);
        var out = Files.newOutputStream(path)) {
      var buffer = new byte[64 * 1024];
      long total = 0;
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        total += read;
        if (total > largest.toBytes()) {
          throw new Refusal(Refusal.Kind.TOO_LARGE, tooLarge(name));
        }
        out.write(buffer, 0, read);
      }
    } catch (IOException | RuntimeException e) {
      Files.deleteIfExists(path);
      throw e;
    }
    return new Upload(path, HexFormat.of().formatHex(digest.digest()));
  }

  private Problem tooLarge(String name) {
    return new Problem(
        "file-too-large",
        "%s is larger than %d MB.".formatted(name, largest.toMegabytes()),
        "A file of a million people is smaller; this may be another kind of file.",
        "Send the right file, or raise ebb.largest-upload.",
        Where.file(name));
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }
}
