package ebb.standins;

import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ThreadLocalRandom;

/**
 * Ports for servers on loopback. They lie below those that the system gives to outgoing
 * connections: one of these could otherwise take a port between its choice and the start of its
 * server.
 */
public final class Ports {
  private static final int LOWEST = 20_000;
  private static final int HIGHEST = 32_000;
  private static final int TRIES = 100;
  private static final Set<Integer> GIVEN = ConcurrentHashMap.newKeySet();

  /**
   * @return a port that nobody listens on, and that this process was not given before
   */
  public static int free() throws IOException {
    for (int i = 0; i < TRIES; i++) {
      var port = ThreadLocalRandom.current().nextInt(LOWEST, HIGHEST);
      try (var _ = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
        if (GIVEN.add(port)) {
          return port;
        }
      } catch (BindException _) {
        // Another process listens there: the next port is tried.
      }
    }
    throw new IOException("No port is free between %d and %d".formatted(LOWEST, HIGHEST));
  }

  private Ports() {}
}
