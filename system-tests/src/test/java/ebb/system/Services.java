package ebb.system;

import ebb.demo.Stage;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;

/**
 * Starts the real service on loopback, as {@code ebb server} does: from its ahead-of-time cache.
 */
final class Services {
  private static final Path TARGET = Path.of("../service/target").toAbsolutePath().normalize();
  private static final Path JAR = TARGET.resolve("ebb-service-0.1.0-boot.jar");
  private static final Path CACHE = TARGET.resolve("app/ebb.aot");

  /**
   * @param settings as in ebb.zone=Europe/Oslo
   */
  static Stage start(String... settings) throws Exception {
    return startIn(
        Files.createTempDirectory(Files.createDirectories(Path.of("target/homes")), "home"),
        settings);
  }

  /** As {@link #start}, with a data folder that is there already. */
  static Stage startIn(Path home, String... settings) throws Exception {
    prepare();
    var machine = new ArrayList<>(Stage.SHORT_LIVED);
    machine.add("-XX:AOTCache=" + CACHE);
    Arrays.stream(settings).map("-D"::concat).forEach(machine::add);
    return new Stage(
        home.toAbsolutePath(), TARGET.resolve("app").resolve(JAR.getFileName()), 0, machine);
  }

  /** Made once for a jar; the first test pays for it, and all others start in half the time. */
  private static synchronized void prepare() throws IOException, InterruptedException {
    // Tests run in more than one process.
    try (var file =
            FileChannel.open(
                TARGET.resolve("prepare.lock"),
                StandardOpenOption.CREATE,
                StandardOpenOption.WRITE);
        var _ = file.lock()) {
      if (Files.exists(CACHE)
          && !Files.getLastModifiedTime(JAR)
              .toInstant()
              .isAfter(Files.getLastModifiedTime(CACHE).toInstant())) {
        return;
      }
      var prepared = new ProcessBuilder("../bin/prepare", "service").inheritIO().start();
      if (prepared.waitFor() != 0) {
        throw new IllegalStateException("bin/prepare service failed; what it said stands above");
      }
    }
  }

  private Services() {}
}
