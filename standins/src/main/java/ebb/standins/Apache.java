package ebb.standins;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.Base64;
import java.util.List;

/**
 * Debian's Apache with WebDAV on loopback, with files of its own: no stand-in, but the real thing
 * to try against where it is installed. Started by root only, as files belong to a user of their
 * own.
 */
public final class Apache implements AutoCloseable {
  /** Who may read and write all files. */
  public static final String USER = "ebb";

  public static final String PASSWORD = "secret";

  private static final String OWNER = "www-data";

  private static final String CONFIGURATION =
      """
      ServerRoot %1$s
      PidFile %1$s/pid
      DefaultRuntimeDir %1$s
      Listen 127.0.0.1:%2$d
      ServerName 127.0.0.1
      LoadModule mpm_event_module /usr/lib/apache2/modules/mod_mpm_event.so
      LoadModule authn_core_module /usr/lib/apache2/modules/mod_authn_core.so
      LoadModule authn_file_module /usr/lib/apache2/modules/mod_authn_file.so
      LoadModule authz_core_module /usr/lib/apache2/modules/mod_authz_core.so
      LoadModule authz_user_module /usr/lib/apache2/modules/mod_authz_user.so
      LoadModule auth_basic_module /usr/lib/apache2/modules/mod_auth_basic.so
      LoadModule dav_module /usr/lib/apache2/modules/mod_dav.so
      LoadModule dav_fs_module /usr/lib/apache2/modules/mod_dav_fs.so
      User www-data
      Group www-data
      ErrorLog %1$s/log
      DocumentRoot %1$s/files
      DavLockDB %1$s/locks/db
      AllowEncodedSlashes On
      <Directory %1$s/files>
        Dav On
        AuthType Basic
        AuthName files
        AuthUserFile %1$s/users
        Require valid-user
        %3$s
      </Directory>
      """;

  private final Path folder;
  private final int port;
  private final Loopback server;

  private Apache(Path folder, int port) {
    this.folder = folder;
    this.port = port;
    this.server =
        new Loopback(
            folder,
            List.of(
                "/usr/sbin/apache2",
                "-D",
                "FOREGROUND",
                "-f",
                folder.resolve("apache.conf").toString()),
            port);
  }

  /**
   * @param rules lines of configuration for all files
   */
  public static Apache start(String rules) throws Exception {
    var apache = new Apache(Loopback.folder("ebb-apache"), Ports.free());
    apache.owned("files");
    apache.owned("locks");
    Files.writeString(apache.folder.resolve("users"), USER + ":{SHA}" + print(PASSWORD) + "\n");
    Files.writeString(
        apache.folder.resolve("apache.conf"),
        CONFIGURATION.formatted(apache.folder, apache.port, rules));
    apache.server.resume();
    return apache;
  }

  private static String print(String password) throws Exception {
    return Base64.getEncoder()
        .encodeToString(
            MessageDigest.getInstance("SHA-1").digest(password.getBytes(StandardCharsets.UTF_8)));
  }

  private void owned(String name) throws IOException {
    Files.setOwner(Files.createDirectory(folder.resolve(name)), Loopback.user(folder, OWNER));
  }

  /** Ends it and all connections; what it holds stays. */
  public void stop() throws InterruptedException {
    server.stop();
  }

  /** Starts it again; does nothing if it runs. */
  public void resume() throws Exception {
    server.resume();
  }

  /** Puts files into somebody's home, a hundred in a folder, as fast as the disk takes them. */
  public void fill(String login, int files, int bytes) throws IOException {
    var owner = Loopback.user(folder, OWNER);
    var home = folder.resolve("files").resolve(login);
    Files.setOwner(Files.createDirectories(home), owner);
    for (int i = 0; i < files; i++) {
      var inside = Files.createDirectories(home.resolve("folder " + i / 100));
      Files.setOwner(inside, owner);
      var text = ("Sheet %d. ".formatted(i) + "All quiet on the water. ".repeat(bytes / 24));
      Files.setOwner(Files.writeString(inside.resolve("file %d.txt".formatted(i)), text), owner);
    }
  }

  /** Where all files are; ends with a slash. */
  public String address() {
    return "http://127.0.0.1:%d/".formatted(port);
  }

  @Override
  public void close() throws Exception {
    stop();
    Loopback.delete(folder);
  }
}
