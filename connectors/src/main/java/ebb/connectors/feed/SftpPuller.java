package ebb.connectors.feed;

import ebb.core.application.Secret;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.security.GeneralSecurityException;
import java.security.PublicKey;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.apache.sshd.client.SshClient;
import org.apache.sshd.client.config.hosts.HostConfigEntryResolver;
import org.apache.sshd.client.session.ClientSession;
import org.apache.sshd.common.NamedResource;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.keyprovider.KeyIdentityProvider;
import org.apache.sshd.common.util.security.SecurityUtils;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClientFactory;

/**
 * Gets files over SFTP, the oldest first that was not got yet. The server must show the key that
 * was confirmed. Nothing there is moved or removed.
 */
public final class SftpPuller implements Puller {
  private static final int PORT = 22;
  private static final int MOST_FILES = 10_000;
  private static final Duration CONNECT = Duration.ofSeconds(10);

  private final Origin origin;
  private final Secret secret;
  private final long largest;
  private final Duration longest;
  private final String where;

  /**
   * @param secret a password, or a private key in PEM
   * @param largest how many bytes are read at most
   * @param longest how long all of it may take
   */
  public SftpPuller(Origin origin, Secret secret, long largest, Duration longest) {
    this.origin = origin;
    this.secret = secret;
    this.largest = largest;
    this.longest = longest;
    this.where =
        "sftp://%s%s".formatted(origin.setting(Origin.HOST), port() == PORT ? "" : ":" + port());
  }

  private int port() {
    var port = origin.setting(Origin.PORT);
    return port.isEmpty() ? PORT : Integer.parseInt(port);
  }

  /** A file over there. */
  private record There(String path, long modified, long size) {
    String mark() {
      return "%d %d %s".formatted(modified, size, path);
    }
  }

  @Override
  public Optional<Fetched> fetch(Path into, String mark) throws Undelivered {
    var shown = new AtomicReference<PublicKey>();
    try (var client = SshClient.setUpDefaultClient()) {
      client.setServerKeyVerifier(
          (_, _, key) -> {
            shown.set(key);
            return print(key).equals(origin.setting(Origin.HOST_KEY));
          });
      // Nobody's own keys and settings on this machine are any business of a feed's.
      client.setHostConfigEntryResolver(HostConfigEntryResolver.EMPTY);
      client.setKeyIdentityProvider(KeyIdentityProvider.EMPTY_KEYS_PROVIDER);
      client.start();
      try (var session = session(client, shown);
          var sftp = SftpClientFactory.instance().createSftpClient(session)) {
        return next(sftp, into, mark);
      }
    } catch (IOException e) {
      throw Amiss.unreachable(where, e);
    }
  }

  private ClientSession session(SshClient client, AtomicReference<PublicKey> shown)
      throws IOException, Undelivered {
    var session =
        client
            .connect(origin.setting(Origin.USER), origin.setting(Origin.HOST), port())
            .verify(CONNECT)
            .getSession();
    try {
      signIn(session);
      return session;
    } catch (IOException e) {
      session.close(true);
      var key = shown.get() == null ? null : print(shown.get());
      var confirmed = origin.setting(Origin.HOST_KEY);
      if (key != null && !key.equals(confirmed)) {
        throw confirmed.isEmpty()
            ? Amiss.hostKeyUnknown(where, key)
            : Amiss.hostKeyChanged(where, confirmed, key);
      }
      if (key != null) {
        throw Amiss.signInRefused(where, origin.setting(Origin.USER), e);
      }
      throw e;
    }
  }

  private void signIn(ClientSession session) throws IOException {
    if (secret.reveal().startsWith("-----BEGIN")) {
      try {
        for (var pair :
            SecurityUtils.loadKeyPairIdentities(
                session,
                NamedResource.ofName("the feed's key"),
                new ByteArrayInputStream(secret.reveal().getBytes(StandardCharsets.UTF_8)),
                null)) {
          session.addPublicKeyIdentity(pair);
        }
      } catch (GeneralSecurityException e) {
        throw new IOException("The private key cannot be read", e);
      }
    } else {
      session.addPasswordIdentity(secret.reveal());
    }
    session.auth().verify(CONNECT);
  }

  private static String print(PublicKey key) {
    return KeyUtils.getFingerPrint(key);
  }

  private Optional<Fetched> next(SftpClient sftp, Path into, String mark)
      throws IOException, Undelivered {
    var next = next(sftp, mark);
    if (next.isEmpty()) {
      return Optional.empty();
    }
    var there = next.get();
    copy(sftp, there, into);
    if (!there.equals(look(sftp, there.path()))) {
      throw Amiss.stillWritten(there.path());
    }
    var name = there.path().substring(there.path().lastIndexOf('/') + 1);
    return Optional.of(new Fetched(name, Instant.ofEpochSecond(there.modified()), there.mark()));
  }

  /** The oldest file that comes after the one of the mark. */
  private Optional<There> next(SftpClient sftp, String mark) throws IOException, Undelivered {
    var path = origin.setting(Origin.PATH);
    var order = Comparator.comparingLong(There::modified).thenComparing(There::path);
    var last = mark == null ? null : parse(mark);
    var all = new ArrayList<There>();
    if (sftp.stat(path).isDirectory()) {
      var names = names();
      for (var entry : sftp.readDir(path)) {
        var file = entry.getAttributes();
        if (file.isRegularFile() && names.matches(Path.of(entry.getFilename()))) {
          all.add(there(path + "/" + entry.getFilename(), file));
        }
        if (all.size() > MOST_FILES) {
          throw Amiss.tooManyFiles(where + path, MOST_FILES);
        }
      }
    } else {
      all.add(look(sftp, path));
    }
    return all.stream()
        .filter(one -> last == null || (order.compare(one, last) > 0 || isOther(one, last)))
        .min(order);
  }

  /** The same file, written again within the same second. */
  private static boolean isOther(There one, There last) {
    return one.path().equals(last.path())
        && one.modified() == last.modified()
        && one.size() != last.size();
  }

  private PathMatcher names() {
    var names = origin.setting(Origin.NAMES);
    return FileSystems.getDefault().getPathMatcher("glob:" + (names.isEmpty() ? "*" : names));
  }

  private static There parse(String mark) {
    var parts = mark.split(" ", 3);
    return new There(parts[2], Long.parseLong(parts[0]), Long.parseLong(parts[1]));
  }

  private static There look(SftpClient sftp, String path) throws IOException {
    return there(path, sftp.stat(path));
  }

  private static There there(String path, SftpClient.Attributes file) {
    return new There(path, file.getModifyTime().to(TimeUnit.SECONDS), file.getSize());
  }

  private void copy(SftpClient sftp, There there, Path into) throws Undelivered {
    var end = Instant.now().plus(longest);
    long total = 0;
    try (var in = sftp.read(there.path());
        var out = Files.newOutputStream(into)) {
      var buffer = new byte[64 * 1024];
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        total += read;
        if (total > largest) {
          throw Amiss.tooLarge(where, largest);
        }
        if (Instant.now().isAfter(end)) {
          throw Amiss.tooSlow(where, longest.toMinutes());
        }
        out.write(buffer, 0, read);
      }
    } catch (IOException e) {
      throw Amiss.brokeOff(where, e);
    }
  }
}
