package ebb.core.application;

import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;

/**
 * A connected system, as configured.
 *
 * @param kind the connector: "scim" or "ldap"
 * @param settings of that connector, by name; no secrets among them
 * @param problem why it could not be reached last; null if it was well
 * @param checkedAt when it was last tried; null if never
 * @param syncedAt when all of it was last read; null if never
 * @param pause null while its changes are carried out
 */
public record Application(
    String name,
    String kind,
    Map<String, String> settings,
    Problem problem,
    Instant checkedAt,
    Instant syncedAt,
    Pause pause,
    long version) {
  /** Nothing is sent there until somebody lets the work go on. */
  public record Pause(String by, String why, Instant at) {}

  /** As it is before anybody has tried it. */
  public static Application connected(String name, String kind, Map<String, String> settings) {
    return new Application(name, kind, settings, null, null, null, null, 0);
  }

  public Application {
    settings = new TreeMap<>(settings);
  }

  /** Why accounts here own nothing, as an administrator declared it; null if that was not said. */
  public String ownsNothing() {
    return settings.get("ownsNothing");
  }
}
