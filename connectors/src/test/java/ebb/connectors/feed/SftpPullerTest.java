package ebb.connectors.feed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.application.Secret;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import ebb.standins.Children;
import ebb.standins.Ports;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Against Debian's OpenSSH server, which the test starts and ends. */
public class SftpPullerTest {
  private static final Instant NIGHT = Instant.parse("2026-11-23T02:00:00Z");

  private Path home;
  private Path there;
  private Path into;
  private Process sshd;
  private int port;
  private String privateKey;
  private String hostKey;

  @BeforeClass
  void start() throws Exception {
    home =
        Files.createTempDirectory(Files.createDirectories(Path.of("target/sshd")), "home")
            .toAbsolutePath();
    run(
        "ssh-keygen",
        "-q",
        "-t",
        "ecdsa",
        "-m",
        "PEM",
        "-N",
        "",
        "-f",
        home.resolve("host").toString());
    run(
        "ssh-keygen",
        "-q",
        "-t",
        "ecdsa",
        "-m",
        "PEM",
        "-N",
        "",
        "-f",
        home.resolve("user").toString());
    privateKey = Files.readString(home.resolve("user"));
    hostKey = run("ssh-keygen", "-l", "-f", home.resolve("host").toString()).split(" ")[1];
    port = Ports.free();
    var configuration =
        Files.writeString(
            home.resolve("sshd_config"),
            """
            ListenAddress 127.0.0.1:%d
            HostKey %2$s/host
            AuthorizedKeysFile %2$s/user.pub
            PidFile %2$s/pid
            StrictModes no
            UsePAM no
            PermitRootLogin prohibit-password
            PasswordAuthentication no
            Subsystem sftp internal-sftp
            """
                .formatted(port, home));
    if (Files.isWritable(Path.of("/run"))) {
      Files.createDirectories(Path.of("/run/sshd"));
    }
    sshd =
        Children.start(
            new ProcessBuilder("/usr/sbin/sshd", "-D", "-e", "-f", configuration.toString())
                .redirectErrorStream(true)
                .redirectOutput(home.resolve("log").toFile()));
    awaitPort();
  }

  @AfterClass(alwaysRun = true)
  void stop() {
    sshd.destroy();
  }

  @BeforeMethod
  void folder() throws IOException {
    there = Files.createTempDirectory(home, "deliveries");
    into = Files.createTempFile(home, "pulled", ".part");
  }

  @Test
  public void filesAreGotOldestFirstAndEachOnce() throws Exception {
    deliver("b.csv", "No\n1\n", NIGHT);
    deliver("a.csv", "No\n1\n2\n", NIGHT.plusSeconds(60));
    deliver("notes.txt", "x", NIGHT);
    var puller = puller(hostKey, there.toString());
    var first = puller.fetch(into, null).orElseThrow();
    assertThat(first.name()).isEqualTo("b.csv");
    assertThat(first.writtenAt()).isEqualTo(NIGHT);
    var second = puller.fetch(into, first.mark()).orElseThrow();
    assertThat(second.name()).isEqualTo("a.csv");
    assertThat(Files.readString(into)).isEqualTo("No\n1\n2\n");
    assertThat(puller.fetch(into, second.mark())).isEmpty();
    assertThat(Files.exists(there.resolve("a.csv"))).as("nothing is taken away there").isTrue();
  }

  @Test
  public void oneFileIsGotAgainWhenItWasWrittenAgain() throws Exception {
    var file = deliver("people.csv", "No\n1\n", NIGHT);
    var puller = puller(hostKey, file.toString());
    var first = puller.fetch(into, null).orElseThrow();
    assertThat(puller.fetch(into, first.mark())).isEmpty();
    deliver("people.csv", "No\n1\n2\n", NIGHT.plusSeconds(1));
    assertThat(puller.fetch(into, first.mark())).isPresent();
  }

  @Test
  public void aHostNobodyConfirmedIsNotBelieved() throws Exception {
    deliver("a.csv", "No\n1\n", NIGHT);
    var unknown = amiss("", there.toString(), privateKey);
    assertThat(unknown.problem().code()).isEqualTo("host-key-unknown");
    assertThat(unknown.problem().what()).contains(hostKey);
    var changed = amiss("SHA256:another", there.toString(), privateKey);
    assertThat(changed.problem().code()).isEqualTo("host-key-changed");
    assertThat(changed.problem().why()).contains("SHA256:another");
  }

  @Test
  public void aWrongSecretIsSaidToBeOne() {
    var amiss = amiss(hostKey, there.toString(), "no password of anybody's");
    assertThat(amiss.problem().code()).isEqualTo("feed-not-allowed");
    assertThat(amiss.isPassing()).isFalse();
  }

  private Path deliver(String name, String text, Instant at) throws IOException {
    var file = Files.writeString(there.resolve(name), text);
    return Files.setLastModifiedTime(file, FileTime.from(at));
  }

  private Undelivered amiss(String hostKey, String path, String secret) {
    return catchThrowableOfType(
        Undelivered.class, () -> puller(hostKey, path, secret).fetch(into, null));
  }

  private SftpPuller puller(String hostKey, String path) {
    return puller(hostKey, path, privateKey);
  }

  private SftpPuller puller(String hostKey, String path, String secret) {
    var settings =
        Map.of(
            Origin.HOST,
            "127.0.0.1",
            Origin.PORT,
            Integer.toString(port),
            Origin.USER,
            System.getProperty("user.name"),
            Origin.PATH,
            path,
            Origin.NAMES,
            "*.csv",
            Origin.HOST_KEY,
            hostKey);
    return new SftpPuller(
        new Origin(Origin.Kind.SFTP, new TreeMap<>(settings)),
        new Secret(secret),
        1 << 20,
        Duration.ofMinutes(1));
  }

  private static String run(String... command) throws Exception {
    var process = new ProcessBuilder(command).redirectErrorStream(true).start();
    var said = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor()).as(said).isZero();
    return said;
  }

  private void awaitPort() throws Exception {
    for (int i = 0; i < 100; i++) {
      try (var socket = new Socket(InetAddress.getLoopbackAddress(), port)) {
        return;
      } catch (IOException _) {
        Thread.sleep(100);
      }
    }
    throw new IllegalStateException("sshd did not start: " + Files.readString(home.resolve("log")));
  }
}
