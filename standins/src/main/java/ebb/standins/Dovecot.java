package ebb.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;

/**
 * Debian's Dovecot on loopback, with mailboxes of its own: no stand-in, but the real thing to try
 * against where it is installed. Whoever is named has a mailbox. Started by root only, as mail
 * belongs to a user of its own.
 */
public final class Dovecot implements AutoCloseable {
  /** Who may act for everybody, with this password. */
  public static final String MASTER = "ebb";

  public static final String PASSWORD = "secret";

  private static final String CONFIGURATION =
      """
      base_dir = %1$s/run
      state_dir = %1$s/run
      log_path = %1$s/log
      protocols = imap sieve
      listen = 127.0.0.1
      ssl = no
      disable_plaintext_auth = no
      auth_mechanisms = plain
      auth_master_user_separator = *
      mail_location = maildir:~/Maildir
      mail_uid = mail
      mail_gid = mail
      first_valid_uid = 1
      mail_max_userip_connections = 50
      mail_plugins = quota%7$s
      passdb {
        driver = static
        args = user=%4$s password=%5$s
        master = yes
        result_success = continue
      }
      passdb {
        driver = static
        args = password=%5$s
      }
      userdb {
        driver = static
        args = uid=mail gid=mail home=%1$s/mail/%%u master_user=%%u allow_all_users=yes
      }
      service imap-login {
        inet_listener imap {
          port = %2$d
        }
        inet_listener imaps {
          port = 0
        }
      }
      service managesieve-login {
        inet_listener sieve {
          port = %3$d
        }
      }
      protocol imap {
        mail_plugins = quota imap_quota%8$s
      }
      plugin {
        quota = maildir:User quota
        sieve = file:~/sieve;active=~/.dovecot.sieve
        %6$s
      }
      %9$s
      """;

  private static final String SHARED =
      """
      namespace inbox {
        inbox = yes
        separator = .
      }
      namespace {
        type = shared
        separator = .
        prefix = shared.%%%%u.
        location = maildir:%1$s/mail/%%%%u/Maildir
        subscriptions = no
        list = children
      }
      plugin {
        acl = vfile
        acl_shared_dict = file:%1$s/mail/shared
      }
      """;

  private final Path folder;
  private final Loopback server;
  private final int port;
  private final int scripts;

  private Dovecot(Path folder, int port, int scripts) {
    this.folder = folder;
    this.port = port;
    this.scripts = scripts;
    this.server =
        new Loopback(
            folder,
            List.of("/usr/sbin/dovecot", "-F", "-c", folder.resolve("dovecot.conf").toString()),
            port,
            scripts);
  }

  /**
   * @param plugin a line of the settings of its plugins: quota_rule = *:storage=1M
   */
  public static Dovecot start(String plugin) throws Exception {
    return start(plugin, false);
  }

  /** One whose folders can be shared (RFC 4314). */
  public static Dovecot startSharing() throws Exception {
    return start("", true);
  }

  private static Dovecot start(String plugin, boolean shares) throws Exception {
    var folder = Loopback.folder("ebb-dovecot");
    var mail = Files.createDirectory(folder.resolve("mail"));
    Files.createDirectory(folder.resolve("run"));
    Files.setOwner(mail, Loopback.user(folder, "mail"));
    var dovecot = new Dovecot(folder, Ports.free(), Ports.free());
    Files.writeString(
        folder.resolve("dovecot.conf"),
        CONFIGURATION.formatted(
            folder,
            dovecot.port,
            dovecot.scripts,
            MASTER,
            PASSWORD,
            plugin,
            shares ? " acl" : "",
            shares ? " acl imap_acl" : "",
            shares ? SHARED.formatted(folder) : ""));
    dovecot.server.resume();
    return dovecot;
  }

  /** Ends it and all connections; what it holds stays. */
  public void stop() throws InterruptedException {
    server.stop();
  }

  /** Starts it again; does nothing if it runs. */
  public void resume() throws Exception {
    server.resume();
  }

  public String imap() {
    return "imap://127.0.0.1:" + port;
  }

  public String sieve() {
    return "sieve://127.0.0.1:" + scripts;
  }

  /** Puts messages into an inbox that holds none, as fast as the disk takes them. */
  public void fill(String login, int messages, int bytes) throws IOException {
    var owner = Loopback.user(folder, "mail");
    var home = folder.resolve("mail").resolve(login);
    Files.setOwner(Files.createDirectories(home), owner);
    var box = home.resolve("Maildir");
    for (var part : List.of("", "cur", "new", "tmp")) {
      Files.setOwner(Files.createDirectories(box.resolve(part)), owner);
    }
    var line = "All quiet on the water, and the tide is as the table says it is.\n";
    for (int i = 0; i < messages; i++) {
      var head = "Message-ID: <%d.%s@skerrow.example>\nSubject: Watch %1$d\n\n".formatted(i, login);
      var text = head + line.repeat(Math.max(1, (bytes - head.length()) / line.length()));
      var file = box.resolve("cur").resolve("%d.M%d.skerrow:2,S".formatted(1_700_000_000 + i, i));
      Files.setOwner(Files.writeString(file, text), owner);
    }
  }

  /** Takes from the server the right to open a folder. */
  public void lock(String login, String name) throws IOException {
    var box = folder.resolve("mail").resolve(login).resolve("Maildir").resolve("." + name);
    var root = Loopback.user(folder, "root");
    Files.setOwner(box, root);
    Files.setPosixFilePermissions(box, PosixFilePermissions.fromString("rwx------"));
  }

  /** Forgets a mailbox nobody is signed in to. */
  public void empty(String login) throws IOException {
    var box = folder.resolve("mail").resolve(login);
    if (Files.exists(box)) {
      Loopback.delete(box);
    }
  }

  /** The script that sorts what comes in for a mailbox; empty if there is none. */
  public String activeScript(String login) throws IOException {
    var script = folder.resolve("mail").resolve(login).resolve(".dovecot.sieve");
    return Files.exists(script) ? Files.readString(script) : "";
  }

  @Override
  public void close() throws Exception {
    stop();
    Loopback.delete(folder);
  }
}
