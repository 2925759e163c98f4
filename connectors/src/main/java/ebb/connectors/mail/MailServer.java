package ebb.connectors.mail;

import ebb.connectors.http.LineProblems;
import ebb.connectors.http.Lines;
import ebb.connectors.http.Network;
import ebb.connectors.http.Tls;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.net.InetAddress;
import java.net.URI;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javax.net.ssl.SSLContext;
import org.eclipse.angus.mail.iap.BadCommandException;
import org.eclipse.angus.mail.iap.CommandFailedException;

/**
 * A mail server, and who signs in there for the owners of accounts (docs/applications.md).
 *
 * @param user who may act for others by SASL PLAIN with an authorization identity (RFC 4616)
 */
record MailServer(
    String application,
    String host,
    int port,
    Security security,
    String user,
    Secret password,
    Tls tls,
    Network network,
    Duration patience) {
  enum Security {
    NONE,
    STARTTLS,
    TLS
  }

  private static final Duration PATIENCE = Duration.ofSeconds(30);

  /**
   * @param address imap, imaps or sieve, with a host and, where it is another than usual, a port
   */
  static MailServer at(
      String application, String address, Map<String, String> settings, Secrets secrets) {
    var uri = URI.create(address);
    var scheme = uri.getScheme();
    return new MailServer(
        application,
        uri.getHost(),
        uri.getPort() == -1 ? usualPort(scheme) : uri.getPort(),
        scheme.equals("imaps")
            ? Security.TLS
            : Security.valueOf(
                settings.getOrDefault(MailSettings.SECURITY, "starttls").toUpperCase(Locale.ROOT)),
        settings.getOrDefault(MailSettings.USER, ""),
        secrets.get(MailSettings.SECRET),
        Lines.tls(settings, secrets),
        Network.valueOf(settings.getOrDefault("network", "public").toUpperCase(Locale.ROOT)),
        settings.containsKey("patience")
            ? Duration.ofSeconds(Long.parseLong(settings.get("patience")))
            : PATIENCE);
  }

  private static int usualPort(String scheme) {
    return switch (scheme) {
      case "imaps" -> 993;
      case "sieve" -> 4190;
      default -> 143;
    };
  }

  /**
   * Whether it may be called at all. The platform keeps for some seconds what a name leads to, so
   * that the call itself finds the same.
   */
  void checkPlace() throws IOException {
    for (var address : InetAddress.getAllByName(host)) {
      network.check(host, address);
    }
  }

  SSLContext context() throws IOException {
    try {
      return tls.context();
    } catch (GeneralSecurityException e) {
      throw new IOException("The certificates cannot be read: " + e.getMessage(), e);
    }
  }

  private String place() {
    return "%s:%d".formatted(host, port);
  }

  Unreachable unreachable(Exception e) {
    return new Unreachable(
        lineProblem(e)
            .orElseGet(
                () ->
                    e instanceof CommandFailedException || e instanceof BadCommandException
                        ? refused(e)
                        : noAnswer(e)),
        e);
  }

  /** A folder that is listed and not opened: what lies in it is not known. */
  Unreachable notOpened(String login, String folder, CommandFailedException e) {
    return new Unreachable(
        new Problem(
            "mail-folder-not-opened",
            "The folder %s of %s cannot be opened.".formatted(folder, login),
            "The server says: " + e.getMessage(),
            "Give %s the right to read it there, or remove it if it is no folder; it is tried again."
                .formatted(user.isEmpty() ? "who signs in" : user),
            null),
        e);
  }

  private Problem refused(Exception e) {
    return new Problem(
        "mail-refused",
        "The mail server of %s refuses what it is asked.".formatted(application),
        "It says: " + e.getMessage(),
        "See what it has against it in its own log; it is tried again.",
        null);
  }

  private Optional<Problem> lineProblem(Exception e) {
    return new LineProblems(application, place()).of(e);
  }

  private Problem noAnswer(Exception e) {
    return new Problem(
        "mail-no-answer",
        "The mail server of %s does not answer at %s.".formatted(application, place()),
        e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage(),
        "See whether it is up. What was carried stands; Ebb goes on by itself.",
        null);
  }

  Unreachable notSignedIn(String login, String said) {
    return new Unreachable(
        new Problem(
            "mail-sign-in-refused",
            "The mail server of %s does not let %s in for %s."
                .formatted(application, user.isEmpty() ? "Ebb" : user, login),
            said,
            "See whether %s may act for others there, whether the password is right, and whether %s has a mailbox."
                .formatted(user.isEmpty() ? "who signs in" : user, login),
            null),
        null);
  }

  Unreachable notSecure() {
    return new Unreachable(
        new Problem(
            "mail-not-secure",
            "The mail server of %s offers no secure line at %s.".formatted(application, place()),
            "It has no STARTTLS there, and the password is not sent in the clear.",
            "Use imaps, or set mailSecurity=none where nobody else can listen.",
            null),
        null);
  }
}
