package ebb.system;

import ebb.demo.ServiceHost;
import ebb.standins.Children;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Lends a {@link Host} to one service at a time. Hosts outlive the services in them; one that is
 * killed is gone, and the next start takes another.
 */
final class WarmHost implements ServiceHost {
  private static final ConcurrentLinkedQueue<Machine> IDLE = new ConcurrentLinkedQueue<>();

  private final List<String> command;
  private Machine machine;

  /**
   * @param command starts a host
   */
  WarmHost(List<String> command) {
    this.command = command;
  }

  /** A running host. */
  private static final class Machine {
    private static final String LINK = "Link: ";
    private static final String READY = "Ebb is ready";
    private static final long LONGEST_START_SECONDS = 180;
    private static final long LONGEST_STOP_SECONDS = 30;

    private final Process process;
    private final BufferedWriter commands;
    private final List<String> said = new ArrayList<>();
    private volatile BufferedWriter log;
    private volatile CountDownLatch answered = new CountDownLatch(1);

    Machine(List<String> command) throws IOException {
      process = Children.start(new ProcessBuilder(command).redirectErrorStream(true));
      commands =
          new BufferedWriter(
              new OutputStreamWriter(process.getOutputStream(), StandardCharsets.UTF_8));
      // A pipe blocks its thread whole: two virtual ones could hold up all others on two cores.
      Thread.ofPlatform().daemon().name("host").start(this::listen);
    }

    private void listen() {
      try (var lines =
          new BufferedReader(
              new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
        for (var line = lines.readLine(); line != null; line = lines.readLine()) {
          heard(line);
        }
      } catch (IOException _) {
        // It was killed.
      }
      answered.countDown();
    }

    private synchronized void heard(String line) throws IOException {
      if (log != null) {
        log.write(line);
        log.newLine();
        log.flush();
      }
      said.add(line);
      if (line.startsWith(READY) || line.equals(Host.STOPPED) || line.equals(Host.FAILED)) {
        answered.countDown();
      }
    }

    Optional<String> start(List<String> arguments, Path file)
        throws IOException, InterruptedException {
      synchronized (this) {
        said.clear();
        log = Files.newBufferedWriter(file, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
      }
      if (!tell(String.join("\t", arguments)).await(LONGEST_START_SECONDS, TimeUnit.SECONDS)) {
        throw new IllegalStateException("The service is not ready:\n" + String.join("\n", said));
      }
      synchronized (this) {
        if (said.stream().noneMatch(line -> line.startsWith(READY))) {
          throw new IllegalStateException("The service did not start:\n" + String.join("\n", said));
        }
        var link = said.stream().filter(line -> line.startsWith(LINK)).findFirst();
        said.clear();
        return link.map(line -> line.substring(LINK.length()));
      }
    }

    boolean stop() throws InterruptedException {
      return tell(Host.STOP).await(LONGEST_STOP_SECONDS, TimeUnit.SECONDS) && process.isAlive();
    }

    private CountDownLatch tell(String what) {
      try {
        answered = new CountDownLatch(1);
        commands.write(what);
        commands.newLine();
        commands.flush();
        return answered;
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    void kill() throws InterruptedException {
      process.destroyForcibly();
      process.waitFor();
    }
  }

  @Override
  public Optional<String> start(List<String> arguments, Path log)
      throws IOException, InterruptedException {
    machine = IDLE.poll();
    if (machine == null) {
      machine = new Machine(command);
    }
    return machine.start(arguments, log);
  }

  @Override
  public void kill() throws InterruptedException {
    if (machine != null) {
      machine.kill();
      machine = null;
    }
  }

  /** A host that does not get a service stopped is no host for another. */
  @Override
  public void end() throws InterruptedException {
    if (machine == null) {
      return;
    }
    if (machine.stop()) {
      IDLE.add(machine);
      machine = null;
    } else {
      kill();
    }
  }
}
