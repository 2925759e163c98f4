package ebb.connectors.scim;

import ebb.core.application.Details;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** A resource as a list of its values: RFC 7643, section 2. */
final class ScimDetails {
  private static final String META = "meta";
  private static final String SCHEMAS = "schemas";

  static Details of(JsonNode user) {
    var values = new TreeMap<String, List<String>>();
    user.properties().stream()
        .filter(one -> !one.getKey().equals(META) && !one.getKey().equals(SCHEMAS))
        .forEach(one -> add(values, one.getKey(), one.getValue()));
    return new Details(
        values, instant(user.path(META).path("lastModified").asString("")).orElse(null), null);
  }

  private static void add(SortedMap<String, List<String>> values, String name, JsonNode value) {
    if (value.isArray()) {
      value.forEach(each -> add(values, name, each));
    } else if (value.isObject() && value.has("value")) {
      // One of several, told apart by its type (RFC 7643, section 2.4).
      var type = value.path("type").asString("");
      add(values, type.isEmpty() ? name : name + "." + type, value.path("value"));
    } else if (value.isObject()) {
      value.properties().forEach(one -> add(values, name + "." + one.getKey(), one.getValue()));
    } else if (!value.isNull()) {
      values.computeIfAbsent(name, _ -> new ArrayList<>()).add(value.asString());
    }
  }

  private static Optional<Instant> instant(String text) {
    try {
      return text.isEmpty()
          ? Optional.empty()
          : Optional.of(OffsetDateTime.parse(text).toInstant());
    } catch (DateTimeException _) {
      // It says something else there; when it was changed is not known then.
      return Optional.empty();
    }
  }

  private ScimDetails() {}
}
