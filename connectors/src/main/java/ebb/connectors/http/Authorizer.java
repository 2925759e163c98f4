package ebb.connectors.http;

import ebb.connectors.http.JsonHttp.NoAnswer;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Base64;

/** Fills the Authorization header, with a token that is still good. */
final class Authorizer {
  /** A token is not used any more so long before its end: it must outlast the way. */
  private static final Duration MARGIN = Duration.ofSeconds(20);

  /** Asks a server for a token. */
  interface TokenServer {
    /**
     * @throws NoAnswer if none was given
     */
    Token ask(Credentials.Client client) throws NoAnswer;
  }

  /**
   * @param life null if the server did not say how long it is good
   */
  record Token(String text, Duration life) {}

  private final Credentials credentials;
  private final TokenServer server;
  private final InstantSource time;
  private String token;
  private Instant goodUntil = Instant.EPOCH;

  Authorizer(Credentials credentials, TokenServer server, InstantSource time) {
    this.credentials = credentials;
    this.server = server;
    this.time = time;
  }

  String header() throws NoAnswer {
    return switch (credentials) {
      case Credentials.Bearer(var secret) -> "Bearer " + secret.reveal();
      case Credentials.Basic(var name, var password) ->
          "Basic "
              + Base64.getEncoder()
                  .encodeToString(
                      (name + ":" + password.reveal()).getBytes(StandardCharsets.UTF_8));
      case Credentials.Client client -> "Bearer " + token(client);
    };
  }

  private synchronized String token(Credentials.Client client) throws NoAnswer {
    var now = time.instant();
    if (!now.isBefore(goodUntil)) {
      var asked = server.ask(client);
      token = asked.text();
      goodUntil = now.plus(usedFor(asked.life()));
    }
    return token;
  }

  private static Duration usedFor(Duration life) {
    if (life == null) {
      return Duration.ofMinutes(5);
    }
    var most = life.minus(MARGIN);
    return most.isNegative() ? life.dividedBy(2) : most;
  }

  /**
   * Forgets a token that was refused.
   *
   * @return whether another one can be had
   */
  synchronized boolean renews(String refused) {
    if (!(credentials instanceof Credentials.Client)) {
      return false;
    }
    if (refused.equals("Bearer " + token)) {
      goodUntil = Instant.EPOCH;
    }
    return true;
  }
}
