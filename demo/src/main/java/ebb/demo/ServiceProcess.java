package ebb.demo;

import ebb.standins.Children;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** The service as a process of its own. */
public final class ServiceProcess implements ServiceHost {
  /** Compiling everything to the utmost costs a short-lived service more than it gives. */
  public static final List<String> SHORT_LIVED =
      List.of("-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC");

  /** With the collector of bin/ebb server, for what runs as long as that does. */
  public static final List<String> AS_SERVED = List.of("-XX:+UseParallelGC");

  private static final String LINK = "Link: ";
  private static final String READY = "Ebb is ready";
  private static final int LONGEST_STOP_SECONDS = 15;

  private final Path jar;
  private final List<String> machine;
  private Process process;

  /**
   * @param machine options of its virtual machine
   */
  public ServiceProcess(Path jar, List<String> machine) {
    this.jar = jar;
    this.machine = List.copyOf(machine);
  }

  @Override
  public Optional<String> start(List<String> arguments, Path log)
      throws IOException, InterruptedException {
    process = Children.start(new ProcessBuilder(command(arguments)).redirectErrorStream(true));
    var lines =
        new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
    var said = untilReady(lines);
    Files.write(log, said, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
    // A pipe blocks its thread whole: two virtual ones could hold up all others on two cores.
    Thread.ofPlatform().daemon().name("service-log").start(() -> keep(lines, log));
    return said.stream()
        .filter(line -> line.startsWith(LINK))
        .map(line -> line.substring(LINK.length()))
        .findFirst();
  }

  private List<String> command(List<String> arguments) {
    var command = new ArrayList<String>();
    command.add(ProcessHandle.current().info().command().orElseThrow());
    command.addAll(machine);
    command.addAll(
        List.of(
            "-Xmx512m",
            "--enable-native-access=ALL-UNNAMED",
            "--sun-misc-unsafe-memory-access=allow",
            "-jar",
            jar.toString()));
    command.addAll(arguments);
    return command;
  }

  private List<String> untilReady(BufferedReader lines) throws IOException, InterruptedException {
    var said = new ArrayList<String>();
    do {
      var line = lines.readLine();
      if (line == null) {
        process.waitFor();
        throw new IllegalStateException("The service did not start:\n" + String.join("\n", said));
      }
      said.add(line);
    } while (!said.getLast().startsWith(READY));
    return said;
  }

  /** What the service says goes into a file; a full pipe would stop it. */
  private static void keep(BufferedReader lines, Path log) {
    try (var out = Files.newBufferedWriter(log, StandardOpenOption.APPEND)) {
      for (var line = lines.readLine(); line != null; line = lines.readLine()) {
        out.write(line);
        out.newLine();
        out.flush();
      }
    } catch (IOException _) {
      // The process has ended, and its pipe with it.
    }
  }

  @Override
  public void kill() throws InterruptedException {
    if (process != null) {
      process.destroyForcibly();
      process.waitFor();
    }
  }

  @Override
  public void end() throws InterruptedException {
    if (process != null) {
      process.destroy();
      if (!process.waitFor(LONGEST_STOP_SECONDS, TimeUnit.SECONDS)) {
        kill();
      }
    }
  }
}
