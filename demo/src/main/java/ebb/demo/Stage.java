package ebb.demo;

import ebb.standins.MailHouse;
import ebb.standins.Ports;
import ebb.standins.PostBox;
import ebb.standins.StaffDirectory;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.stream.Stream;

/** All that the example needs, on loopback: the stand-ins here, the service in its host. */
public final class Stage implements AutoCloseable {
  /** The sign-in of the demo's first administrator. */
  public static final String OPERATOR = "administrator";

  public static final String PASSWORD = "slack water at noon";

  public static final String MAIL_TOKEN = "mail-house-token";
  public static final String DIRECTORY_PASSWORD = "directory-password";

  private final Path home;
  private final int port;
  private final ServiceHost host;
  private final List<String> settings;
  private final MailHouse mailHouse;
  private final StaffDirectory directory;
  private final PostBox postBox;
  private String token;

  /**
   * Starts everything.
   *
   * @param home data folder of the service; kept if it has data
   * @param port 0 for any that is free
   * @param settings of the service beyond those of the example, as in --ebb.zone=Europe/Oslo
   */
  public Stage(Path home, ServiceHost host, int port, String... settings) throws Exception {
    this.home = Files.createDirectories(home);
    this.host = host;
    this.port = port == 0 ? Ports.free() : port;
    this.settings = List.of(settings);
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

  /** Starts the service, and waits until it is ready. */
  public void startService() throws IOException, InterruptedException {
    var link = host.start(arguments(), home.resolve("service.log"));
    if (link.isPresent() && token == null) {
      token = welcome(link.get());
    }
  }

  /** Of what is set twice the last one counts: Spring would make a list of them. */
  private List<String> arguments() {
    var all = new LinkedHashMap<String, String>();
    Stream.concat(
            Stream.of(
                "--ebb.home=" + home,
                "--ebb.demo=true",
                "--ebb.mail-from=ebb@" + SkerrowFerries.DOMAIN,
                "--ebb.public-address=" + url(),
                "--server.port=" + port,
                "--spring.mail.host=127.0.0.1",
                "--spring.mail.port=" + postBox.port()),
            settings.stream())
        .forEach(one -> all.put(one.substring(0, one.indexOf('=')), one));
    return List.copyOf(all.values());
  }

  /** What the first administrator does: chooses a password, and makes a token. */
  private String welcome(String link) throws IOException {
    var file = Files.writeString(home.resolve("first-password"), PASSWORD);
    var said = new Client(url(), "").json("welcome", link, "--password-file=" + file);
    Files.delete(file);
    return said.path("token").asString();
  }

  /** Ends the service at once, as a power switch would. */
  public void killService() throws InterruptedException {
    host.kill();
  }

  /** Stops the service in order; {@link #startService} starts it again on its data. */
  public void stopService() throws InterruptedException {
    host.end();
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
    host.end();
    postBox.close();
    directory.close();
    mailHouse.close();
  }
}
