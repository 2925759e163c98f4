package ebb.service.imports;

import ebb.core.imports.Print;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;
import org.springframework.util.unit.DataSize;

/** Keeps uploaded files on the disk until their import is released or given up, and no longer. */
@Component
final class Uploads {
  private final Path folder;
  private final DataSize largest;
  private final Duration longest;

  Uploads(
      @Value("${ebb.home}") Path home,
      @Value("${ebb.largest-upload}") DataSize largest,
      @Value("${ebb.keep-uploads}") Duration longest)
      throws IOException {
    this.folder = Files.createDirectories(home.resolve("uploads"));
    this.largest = largest;
    this.longest = longest;
  }

  /** A file on the disk, deleted when closed unless it was handed to an import. */
  record Upload(Path path, String print, long size) implements Closeable {
    @Override
    public void close() throws IOException {
      Files.deleteIfExists(path);
    }
  }

  /**
   * @throws Refusal if it is larger than the limit; no more than that is ever read
   */
  Upload keep(InputStream body, String name) throws IOException {
    var path = Files.createTempFile(folder, "upload-", ".part");
    var print = new Print.OfBytes();
    long total = 0;
    try (var out = Files.newOutputStream(path)) {
      var buffer = new byte[64 * 1024];
      for (int read = body.read(buffer); read >= 0; read = body.read(buffer)) {
        total += read;
        if (total > largest.toBytes()) {
          throw new Refusal(Refusal.Kind.TOO_LARGE, tooLarge(name));
        }
        print.put(buffer, 0, read);
        out.write(buffer, 0, read);
      }
    } catch (IOException | RuntimeException e) {
      Files.deleteIfExists(path);
      throw e;
    }
    return new Upload(path, print.end().text(), total);
  }

  /** A folder to unpack an upload into, deleted when closed unless it was handed to an import. */
  record Unpacked(Path folder) implements Closeable {
    @Override
    public void close() throws IOException {
      FileSystemUtils.deleteRecursively(folder);
    }
  }

  Unpacked folder() throws IOException {
    return new Unpacked(Files.createTempDirectory(folder, "bundle-"));
  }

  /** Gives a file to its import. */
  void hand(Path file, long made) throws IOException {
    Files.move(file, path(made), StandardCopyOption.REPLACE_EXISTING);
  }

  /** Gives files that are linked to its list to an import. */
  void handLinked(Unpacked unpacked, long made) throws IOException {
    Files.move(unpacked.folder(), linkedPath(made));
  }

  /** The folder of an import's linked files; empty if it has none, or they are kept no more. */
  Optional<Path> linked(long made) {
    return Optional.of(linkedPath(made)).filter(Files::exists);
  }

  /** The file of an import; empty if it is kept no more. */
  Optional<Path> of(long made) {
    return Optional.of(path(made)).filter(Files::exists);
  }

  void drop(long made) {
    try {
      Files.deleteIfExists(path(made));
      FileSystemUtils.deleteRecursively(linkedPath(made));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Files nobody came back to. */
  @Scheduled(fixedDelay = 24, initialDelay = 1, timeUnit = TimeUnit.HOURS)
  void sweep() throws IOException {
    var oldest = Instant.now().minus(longest);
    try (var files = Files.list(folder)) {
      for (var file : files.toList()) {
        if (Files.getLastModifiedTime(file).toInstant().isBefore(oldest)) {
          FileSystemUtils.deleteRecursively(file);
        }
      }
    }
  }

  private Path path(long made) {
    return folder.resolve("import-" + made);
  }

  private Path linkedPath(long made) {
    return folder.resolve("import-%d-linked".formatted(made));
  }

  private Problem tooLarge(String name) {
    return new Problem(
        "file-too-large",
        "%s is larger than %d MB.".formatted(name, largest.toMegabytes()),
        "A file of a million people is smaller; this may be another kind of file.",
        "Send the right file, or raise ebb.largest-upload.",
        Where.file(name));
  }
}
