package ebb.service.departures;

import java.util.Map;
import java.util.Optional;

/**
 * Who gets what of an account, kind by kind.
 *
 * @param usual whoever is named in the departure; empty while nobody is
 * @param byKind whom the settings of the application name for one kind
 */
record Shares(Optional<Recipient> usual, Map<String, Recipient> byKind) {
  /** Empty while nobody is named. */
  Optional<Recipient> of(String kind) {
    return byKind.containsKey(kind) ? Optional.of(byKind.get(kind)) : usual;
  }

  /** Whether one of them gets some of it, and another the rest. */
  boolean areSeveral() {
    return !byKind.isEmpty();
  }
}
