package ebb.cli;

import java.util.List;
import java.util.Set;

/**
 * One kind of thing that is set up, in a folder of its own, with a file for each.
 *
 * @param path of the interface
 * @param key the field by which the service calls it
 * @param fields those that are kept in a file
 * @param follows what is to be done for one that is new, in words; null if nothing
 */
record ConfigKind(String folder, String path, String key, Set<String> fields, String follows) {
  static final ConfigKind RULES =
      new ConfigKind(
          "rules",
          "/api/v1/rules",
          "name",
          Set.of(
              "application",
              "condition",
              "values",
              "references",
              "groups",
              "seats",
              "leadDays",
              "from",
              "until",
              "byItself"),
          null);

  /** In the order in which they are loaded: what others name comes first. */
  static final List<ConfigKind> SETTINGS =
      List.of(
          new ConfigKind(
              "attributes",
              "/api/v1/attributes",
              "name",
              Set.of("type", "required", "fallback", "searchable", "byHand", "choices"),
              null),
          new ConfigKind(
              "logins",
              "/api/v1/login-schemes",
              "name",
              Set.of("expressions", "longest", "reserved", "restDays"),
              null),
          new ConfigKind(
              "groups", "/api/v1/group-marks", "name", Set.of("risk", "scope", "most"), null),
          new ConfigKind(
              "applications",
              "/api/v1/applications",
              "name",
              Set.of("kind", "settings"),
              "its secrets are in no file; give them: ebb applications connect %s --secret-file …"),
          new ConfigKind(
              "sources",
              "/api/v1/sources",
              "name",
              Set.of("rank", "key", "columns", "ignored", "dateFormat", "computed", "tables"),
              null),
          new ConfigKind(
              "feeds",
              "/api/v1/feeds",
              "source",
              Set.of(
                  "kind",
                  "settings",
                  "cron",
                  "zone",
                  "blackouts",
                  "graceMinutes",
                  "complete",
                  "missing"),
              "it is a draft; try it out, then: ebb feeds on %s"));
}
