package ebb.service.departures;

import ebb.core.handover.Sheet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

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

  /**
   * Who gets what there is, for people: "Ada Head", or "Archive (mail), Ada Head (files)".
   *
   * @param sheet null while no stock was taken
   * @return null if for some of it there is nobody with an account there
   */
  String words(Sheet sheet) {
    var named = new LinkedHashMap<String, Set<String>>();
    for (var kind : kinds(sheet)) {
      var name = name(of(kind));
      if (name == null) {
        return null;
      }
      named.computeIfAbsent(name, _ -> new TreeSet<>()).add(kind);
    }
    return switch (named.size()) {
      case 0 -> name(usual);
      case 1 -> named.keySet().iterator().next();
      default ->
          named.entrySet().stream()
              .map(one -> "%s (%s)".formatted(one.getKey(), String.join(", ", one.getValue())))
              .collect(Collectors.joining(", "));
    };
  }

  private static Set<String> kinds(Sheet sheet) {
    var kinds = new TreeSet<String>();
    if (sheet != null) {
      sheet
          .lines()
          .forEach(
              (kind, line) -> {
                if (line.canBeHandedOver()) {
                  kinds.add(kind);
                }
              });
    }
    return kinds;
  }

  private static String name(Optional<Recipient> to) {
    return to.filter(one -> one.account() != null).map(Recipient::name).orElse(null);
  }
}
