package ebb.system;

import ebb.demo.ServiceHost;
import ebb.demo.ServiceProcess;
import ebb.demo.Stage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Starts the real service on loopback, with its ahead-of-time cache, as {@code ebb server} does.
 */
final class Services {
  private static final Path APP = Path.of("../service/target/app").toAbsolutePath().normalize();
  private static final Path JAR = APP.resolve("ebb-service-0.1.0-boot.jar");

  /** A file larger than this is refused. */
  static final int LARGEST_UPLOAD = 4 << 20;

  /** What goes on in the background is not waited for longer than it takes. */
  private static final List<String> USUAL =
      List.of(
          "--ebb.largest-upload=" + LARGEST_UPLOAD + "B",
          "--ebb.background-begins-after=PT0S",
          "--ebb.rules-settled-every=PT0.2S",
          "--ebb.findings-looked-at-every=PT0.2S",
          "--ebb.units-looked-at-every=PT0.5S");

  private static List<String> machine() {
    var machine = new ArrayList<>(ServiceProcess.SHORT_LIVED);
    machine.add("-XX:AOTCache=" + APP.resolve("ebb.aot"));
    return machine;
  }

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
    return start(home, new WarmHost(host()), settings);
  }

  /** As a process of its own, which ends in order when the stage is closed. */
  static Stage startAlone() throws Exception {
    return start(
        Files.createTempDirectory(Files.createDirectories(Path.of("target/homes")), "home"),
        new ServiceProcess(JAR, machine()));
  }

  private static Stage start(Path home, ServiceHost host, String... settings) throws Exception {
    var all = new ArrayList<>(USUAL);
    Arrays.stream(settings).map("--"::concat).forEach(all::add);
    return new Stage(home.toAbsolutePath(), host, 0, all.toArray(String[]::new));
  }

  private static List<String> host() {
    var command = new ArrayList<String>();
    command.add(ProcessHandle.current().info().command().orElseThrow());
    command.addAll(machine());
    command.addAll(
        List.of(
            "-Xmx768m",
            "--enable-native-access=ALL-UNNAMED",
            "--sun-misc-unsafe-memory-access=allow",
            "-cp",
            JAR + ":" + Path.of("target/test-classes").toAbsolutePath(),
            Host.class.getName()));
    return command;
  }

  private Services() {}
}
