package ebb.connectors.scim;

import ebb.core.application.Equality;
import java.time.Duration;
import java.util.Map;
import java.util.TreeMap;

/**
 * How an application is to be taken, beside what it says of itself.
 *
 * @param keepsDeleted whether a deleted account stays there, switched off
 * @param sendsTogether whether writes of the same moment go in one request, where that is taken
 * @param settles how long after a write reads may still show what was before
 * @param equality what the schemas say wrongly, or not at all
 */
record ScimSettings(
    boolean keepsDeleted, boolean sendsTogether, Duration settles, Map<String, Equality> equality) {
  private static final String EQUALITY = "equality.";

  static ScimSettings of(Map<String, String> settings) {
    var equality = new TreeMap<String, Equality>();
    settings.forEach(
        (name, value) -> {
          if (name.startsWith(EQUALITY)) {
            equality.put(name.substring(EQUALITY.length()), Equality.of(value));
          }
        });
    return new ScimSettings(
        settings.getOrDefault("delete", "hard").equals("soft"),
        settings.getOrDefault("together", "yes").equals("yes"),
        Duration.ofSeconds(Long.parseLong(settings.getOrDefault("settles", "0"))),
        equality);
  }
}
