package ebb.connectors.http;

import ebb.core.application.Secret;

/** How Ebb shows an application who it is. */
public sealed interface Credentials {
  /** One token for all requests (RFC 6750). */
  record Bearer(Secret token) implements Credentials {}

  /** A name and a password with each request (RFC 7617). */
  record Basic(String name, Secret password) implements Credentials {}

  /**
   * A client that asks for tokens, each good for a while (RFC 6749, 4.4).
   *
   * @param tokenAddress where it asks
   * @param scope what the token is to be good for; empty to leave that to the server
   */
  record Client(String tokenAddress, String clientId, Secret secret, String scope)
      implements Credentials {}
}
