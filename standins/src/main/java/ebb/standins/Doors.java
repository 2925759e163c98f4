package ebb.standins;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Who may come in: by a token that is always good, by name and password, or by a client's token.
 */
public final class Doors {
  private final String token;
  private final Map<String, Long> issued = new ConcurrentHashMap<>();
  private volatile Duration life = Duration.ofHours(1);

  Doors(String token) {
    this.token = token;
  }

  /** How long the tokens are good that clients are given from now on. */
  public void life(Duration life) {
    this.life = life;
  }

  /** How many tokens were given to clients. */
  public int issued() {
    return issued.size();
  }

  /** Ends all tokens that clients were given. */
  public void forgetTokens() {
    issued.replaceAll((_, _) -> Long.MIN_VALUE);
  }

  boolean isOpenTo(HttpExchange exchange) {
    var header = exchange.getRequestHeaders().getFirst("Authorization");
    if (header == null) {
      return false;
    }
    if (header.startsWith("Bearer ")) {
      var sent = header.substring("Bearer ".length());
      return sent.equals(token) || issued.getOrDefault(sent, Long.MIN_VALUE) > System.nanoTime();
    }
    return isClient(header);
  }

  /** The client is known by the name "ebb" and the token as its password (RFC 7617). */
  private boolean isClient(String header) {
    var expected =
        Base64.getEncoder().encodeToString(("ebb:" + token).getBytes(StandardCharsets.UTF_8));
    return header.equals("Basic " + expected);
  }

  /**
   * A token for a client (RFC 6749, 4.4).
   *
   * @return null if the client is not known
   */
  ObjectNode token(HttpExchange exchange, String form) {
    var fields = new HashMap<String, String>();
    for (var pair : form.split("&")) {
      var at = pair.indexOf('=');
      if (at > 0) {
        fields.put(
            pair.substring(0, at),
            URLDecoder.decode(pair.substring(at + 1), StandardCharsets.UTF_8));
      }
    }
    var header = exchange.getRequestHeaders().getFirst("Authorization");
    var isKnown =
        header == null
            ? "ebb".equals(fields.get("client_id")) && token.equals(fields.get("client_secret"))
            : isClient(header);
    if (!isKnown || !"client_credentials".equals(fields.get("grant_type"))) {
      return null;
    }
    var made = UUID.randomUUID().toString();
    issued.put(made, System.nanoTime() + life.toNanos());
    return MailHouse.JSON
        .createObjectNode()
        .put("access_token", made)
        .put("token_type", "Bearer")
        .put("expires_in", Math.max(1, life.toSeconds()));
  }
}
