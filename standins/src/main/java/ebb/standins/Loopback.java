package ebb.standins;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.nio.file.attribute.UserPrincipal;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** A server of Debian's on loopback, with a folder of its own that others may enter. */
final class Loopback {
  private static final Duration LONGEST_START = Duration.ofSeconds(60);

  private final List<String> command;
  private final Path folder;
  private final int[] ports;
  private Process process;

  /**
   * @param ports on which it answers once it is there
   */
  Loopback(Path folder, List<String> command, int... ports) {
    this.folder = folder;
    this.command = command;
    this.ports = ports;
  }

  /** Beside the checkout: whom what it holds belongs to may not enter everybody's home. */
  static Path folder(String name) throws IOException {
    return Files.createTempDirectory(
        name, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwxr-xr-x")));
  }

  static UserPrincipal user(Path near, String name) throws IOException {
    return near.getFileSystem().getUserPrincipalLookupService().lookupPrincipalByName(name);
  }

  /** Starts it; does nothing if it runs. */
  void resume() throws Exception {
    if (process != null) {
      return;
    }
    process =
        Children.start(
            new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("out").toFile()));
    for (var port : ports) {
      await(port);
    }
  }

  private void await(int port) throws Exception {
    var end = System.nanoTime() + LONGEST_START.toNanos();
    while (true) {
      try (var _ = new Socket(InetAddress.getLoopbackAddress(), port)) {
        return;
      } catch (IOException e) {
        if (!process.isAlive() || System.nanoTime() > end) {
          throw new IllegalStateException(
              command.getFirst() + " does not start: " + Files.readString(folder.resolve("out")),
              e);
        }
        Thread.sleep(50);
      }
    }
  }

  /** Ends it and all connections; what it holds stays. */
  void stop() throws InterruptedException {
    if (process != null) {
      process.destroy();
      process.waitFor();
      process = null;
    }
  }

  static void delete(Path folder) throws IOException {
    try (var all = Files.walk(folder)) {
      for (var one : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(one);
      }
    }
  }
}
