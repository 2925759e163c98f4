package ebb.demo;

import ebb.standins.MailHouse;
import ebb.standins.PostBox;
import ebb.standins.StaffDirectory;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;

/**
 * All that the example needs, on loopback: the stand-ins here, the service as a process of its own.
 */
public final class Stage implements AutoCloseable {
  /** The sign-in of the demo's first administrator. */
  public static final String OPERATOR = "administrator";

  private static final int LOWEST_PORT = 20_000;
  private static final int HIGHEST_PORT = 32_000;
  private static final int PORT_TRIES = 100;

  public static final String PASSWORD = "slack water at noon";

  /** Compiling everything to the utmost costs a short-lived service more than it gives. */
  public static final List<String> SHORT_LIVED =
      List.of("-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC");

  /** With the collector of bin/ebb server, for what runs as long as that does. */
  public static final List<String> AS_SERVED = List.of("-XX:+UseParallelGC");

  private static final String LINK = "Link: ";

  public static final String MAIL_TOKEN = "mail-house-token";
  public static final String DIRECTORY_PASSWORD = "directory-password";

  private final Path home;
  private final Path serviceJar;
  private final int port;
  private final List<String> machine;
  private final MailHouse mailHouse;
  private final StaffDirectory directory;
  private final PostBox postBox;
  private Process service;
  private String link;
  private String token;

  /**
   * Starts everything.
   *
   * @param home data folder of the service; kept if it has data
   * @param port 0 for any that is free
   */
  public Stage(Path home, Path serviceJar, int port) throws Exception {
    this(home, serviceJar, port, SHORT_LIVED);
  }

  /**
   * @param machine options of the service's virtual machine
   */
  public Stage(Path home, Path serviceJar, int port, List<String> machine) throws Exception {
    this.machine = List.copyOf(machine);
    this.home = Files.createDirectories(home);
    this.serviceJar = serviceJar;
    this.port = port == 0 ? freePort() : port;
    mailHouse = new MailHouse(0, MAIL_TOKEN);
    mailHouse.accounts().addGroup("timetable-editors");
    mailHouse.gatherings().make("meeting", "Timetable round", "timetable-editors");
    mailHouse.gatherings().make("shared folder", "Winter timetable", "timetable-editors");
    directory = new StaffDirectory(0, DIRECTORY_PASSWORD);
    postBox = new PostBox(0);
    try {
      startService();
    } catch (IOException | InterruptedException | RuntimeException e) {
      close();
      throw e;
    }
  }

  /**
   * Below those that connections going out are given: one of these could take the port before the
   * service does.
   */
  private static int freePort() throws IOException {
    for (int i = 0; i < PORT_TRIES; i++) {
      var port = ThreadLocalRandom.current().nextInt(LOWEST_PORT, HIGHEST_PORT);
      try (var socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
        return socket.getLocalPort();
      } catch (BindException _) {
        // Somebody has it: another is tried.
      }
    }
    throw new IOException("No port is free between %d and %d".formatted(LOWEST_PORT, HIGHEST_PORT));
  }

  /** Starts the service, and waits until it is ready. */
  public void startService() throws IOException, InterruptedException {
    var command = new ArrayList<String>();
    command.add(ProcessHandle.current().info().command().orElseThrow());
    command.addAll(machine);
    command.addAll(
        List.of(
            "-Xmx512m",
            "--enable-native-access=ALL-UNNAMED",
            "--sun-misc-unsafe-memory-access=allow",
            "-jar",
            serviceJar.toString(),
            "--ebb.home=" + home,
            "--ebb.demo=true",
            "--ebb.largest-upload=256MB",
            "--ebb.mail-from=ebb@" + SkerrowFerries.DOMAIN,
            "--ebb.public-address=" + url(),
            "--server.port=" + port,
            "--spring.mail.host=127.0.0.1",
            "--spring.mail.port=" + postBox.port()));
    service = new ProcessBuilder(command).redirectErrorStream(true).start();
    var said = new ArrayList<String>();
    var lines =
        new BufferedReader(new InputStreamReader(service.getInputStream(), StandardCharsets.UTF_8));
    for (var line = lines.readLine(); ; line = lines.readLine()) {
      if (line == null) {
        service.waitFor();
        throw new IllegalStateException("The service did not start:\n" + String.join("\n", said));
      }
      said.add(line);
      if (line.startsWith(LINK)) {
        link = line.substring(LINK.length());
      }
      if (line.startsWith("Ebb is ready")) {
        break;
      }
    }
    // A pipe blocks its thread whole: two virtual ones could hold up all others on two cores.
    Thread.ofPlatform().daemon().name("service-log").start(() -> keepLog(lines));
    if (link != null && token == null) {
      token = welcome(link);
    }
  }

  /** What the first administrator does: chooses a password, and makes a token. */
  private String welcome(String link) throws IOException {
    var file = Files.writeString(home.resolve("first-password"), PASSWORD);
    var said = new Client(url(), "").json("welcome", link, "--password-file=" + file);
    Files.delete(file);
    return said.path("token").asString();
  }

  /** What the service says goes into a file beside its data; a full pipe would stop it. */
  private void keepLog(BufferedReader lines) {
    try (var log =
        Files.newBufferedWriter(
            home.resolve("service.log"),
            StandardCharsets.UTF_8,
            StandardOpenOption.CREATE,
            StandardOpenOption.APPEND)) {
      for (var line = lines.readLine(); line != null; line = lines.readLine()) {
        log.write(line);
        log.newLine();
        log.flush();
      }
    } catch (IOException _) {
      // The process has ended, and its pipe with it.
    }
  }

  /** Ends the service at once, as a power switch would. */
  public void killService() throws InterruptedException {
    service.destroyForcibly();
    service.waitFor();
  }

  public String url() {
    return "http://127.0.0.1:" + port;
  }

  /** The first administrator's token; null if the data folder had one already. */
  public String token() {
    return token;
  }

  public Path home() {
    return home;
  }

  public MailHouse mailHouse() {
    return mailHouse;
  }

  public StaffDirectory directory() {
    return directory;
  }

  public PostBox postBox() {
    return postBox;
  }

  @Override
  public void close() throws Exception {
    service.destroy();
    if (!service.waitFor(15, TimeUnit.SECONDS)) {
      service.destroyForcibly();
    }
    postBox.close();
    directory.close();
    mailHouse.close();
  }
}
