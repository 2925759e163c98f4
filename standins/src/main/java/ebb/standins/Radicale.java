package ebb.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Debian's Radicale on loopback, with calendars of its own: no stand-in, but the real thing to try
 * against where it is installed.
 */
public final class Radicale implements AutoCloseable {
  /** Who may read and write the calendars of all. */
  public static final String USER = "ebb";

  public static final String PASSWORD = "secret";

  private static final String CONFIGURATION =
      """
      [server]
      hosts = 127.0.0.1:%2$d
      max_connections = 20
      [auth]
      type = htpasswd
      htpasswd_filename = %1$s/users
      htpasswd_encryption = plain
      delay = 0
      [rights]
      type = from_file
      file = %1$s/rights
      [storage]
      filesystem_folder = %1$s/calendars
      [web]
      type = none
      """;

  private static final String RIGHTS =
      """
      [all]
      user: %s
      collection: .*
      permissions: RWrw
      """
          .formatted(USER);

  private final Path folder;
  private final int port;
  private final Loopback server;

  private Radicale(Path folder, int port) {
    this.folder = folder;
    this.port = port;
    this.server =
        new Loopback(
            folder,
            List.of("/usr/bin/radicale", "--config", folder.resolve("radicale.conf").toString()),
            port);
  }

  public static Radicale start() throws Exception {
    var radicale = new Radicale(Loopback.folder("ebb-radicale"), Ports.free());
    var folder = radicale.folder;
    Files.writeString(folder.resolve("users"), USER + ":" + PASSWORD + "\n");
    Files.writeString(folder.resolve("rights"), RIGHTS);
    Files.writeString(
        folder.resolve("radicale.conf"), CONFIGURATION.formatted(folder, radicale.port));
    radicale.resume();
    return radicale;
  }

  /** From now on Ebb may not look at somebody's calendars. */
  public void shut(String login) throws IOException {
    var first = "[shut]\nuser: .+\ncollection: %s(/.*)?\npermissions:\n".formatted(login);
    Files.writeString(folder.resolve("rights"), first + RIGHTS);
  }

  /** Ends it and all connections; what it holds stays. */
  public void stop() throws InterruptedException {
    server.stop();
  }

  /** Starts it again; does nothing if it runs. */
  public void resume() throws Exception {
    server.resume();
  }

  /** Where all calendars are; ends with a slash. */
  public String address() {
    return "http://127.0.0.1:%d/".formatted(port);
  }

  @Override
  public void close() throws Exception {
    stop();
    Loopback.delete(folder);
  }
}
