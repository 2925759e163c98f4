package ebb.system;

import ebb.demo.Stage;
import java.nio.file.Files;
import java.nio.file.Path;

/** Starts the real service, as it is packaged, on loopback. */
final class Services {
  private static final Path JAR = Path.of("../service/target/ebb-service-0.1.0-boot.jar");

  static Stage start() throws Exception {
    var home = Files.createTempDirectory(Files.createDirectories(Path.of("target/homes")), "home");
    return new Stage(home.toAbsolutePath(), JAR, 0);
  }

  private Services() {}
}
