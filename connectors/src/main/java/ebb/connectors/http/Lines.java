package ebb.connectors.http;

import ebb.core.application.Secrets;
import java.time.Duration;
import java.util.Locale;
import java.util.Map;

/** How an application is reached over HTTP, as an administrator set it (docs/applications.md). */
public final class Lines {
  /** Connections to a server that holds what accounts own. */
  private static final int BESIDE = 8;

  private static final Duration PATIENCE = Duration.ofSeconds(15);

  /** The line to the address of an application. */
  public static JsonHttp.Line of(
      String application, Map<String, String> settings, Secrets secrets, int connections) {
    return line(
        application,
        settings.get("address"),
        credentials(settings, secrets),
        settings,
        secrets,
        connections);
  }

  /** The line to its companion interface, with a token of its own if it has one. */
  public static JsonHttp.Line companion(
      String application, Map<String, String> settings, Secrets secrets, int connections) {
    return line(
        application,
        settings.get("companion"),
        secrets.has(Secrets.COMPANION)
            ? new Credentials.Bearer(secrets.get(Secrets.COMPANION))
            : credentials(settings, secrets),
        settings,
        secrets,
        connections);
  }

  /**
   * The line to a server that stands beside an application, with a user of its own.
   *
   * @param secret the name of that user's password
   */
  public static JsonHttp.Line beside(
      String application,
      String address,
      String user,
      String secret,
      Map<String, String> settings,
      Secrets secrets) {
    return line(
        application,
        address,
        new Credentials.Basic(user, secrets.get(secret)),
        settings,
        secrets,
        BESIDE);
  }

  private static JsonHttp.Line line(
      String application,
      String address,
      Credentials credentials,
      Map<String, String> settings,
      Secrets secrets,
      int connections) {
    return new JsonHttp.Line(
        application,
        address.replaceAll("/+$", ""),
        credentials,
        tls(settings, secrets),
        Network.valueOf(settings.getOrDefault("network", "public").toUpperCase(Locale.ROOT)),
        connections,
        settings.containsKey("patience")
            ? Duration.ofSeconds(Long.parseLong(settings.get("patience")))
            : PATIENCE);
  }

  /** What the settings say of secure lines. */
  public static Tls tls(Map<String, String> settings, Secrets secrets) {
    return new Tls(
        settings.getOrDefault("trusted", ""),
        settings.getOrDefault("certificate", ""),
        secrets.get(Secrets.KEY));
  }

  private static Credentials credentials(Map<String, String> settings, Secrets secrets) {
    var secret = secrets.get(Secrets.TOKEN);
    if (settings.containsKey("tokenAddress")) {
      return new Credentials.Client(
          settings.get("tokenAddress"),
          settings.getOrDefault("clientId", ""),
          secret,
          settings.getOrDefault("scope", ""));
    }
    return settings.containsKey("user")
        ? new Credentials.Basic(settings.get("user"), secret)
        : new Credentials.Bearer(secret);
  }

  private Lines() {}
}
