package ebb.system;

import ebb.demo.Stage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;

/** Starts the real service, as it is packaged, on loopback. */
final class Services {
  private static final Path JAR = Path.of("../service/target/ebb-service-0.1.0-boot.jar");

  /**
   * @param settings as in ebb.zone=Europe/Oslo
   */
  static Stage start(String... settings) throws Exception {
    var home = Files.createTempDirectory(Files.createDirectories(Path.of("target/homes")), "home");
    var machine = new ArrayList<>(Stage.SHORT_LIVED);
    Arrays.stream(settings).map("-D"::concat).forEach(machine::add);
    return new Stage(home.toAbsolutePath(), JAR, 0, machine);
  }

  private Services() {}
}
