package ebb.connectors.scim;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Where an attribute of a rule stands in a SCIM user (RFC 7643, 4.1 and 4.3). */
sealed interface ScimAttribute {
  String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  /** A value at a path of at most two names, in the core schema or an extension. */
  record Simple(String extension, String name, String sub) implements ScimAttribute {
    /** The path of a PATCH operation (RFC 7644, 3.5.2). */
    String path() {
      return (extension == null ? "" : extension + ":") + name + (sub == null ? "" : "." + sub);
    }
  }

  /** All values of one type in a multi-valued attribute: emails of type work. */
  record Typed(String name, String type) implements ScimAttribute {}

  /** What rules may fill, by the name they use. */
  Map<String, ScimAttribute> ALL =
      new TreeMap<>(
          Map.ofEntries(
              core("userName"),
              core("displayName"),
              core("title"),
              core("userType"),
              core("timezone"),
              core("locale"),
              sub("name", "givenName"),
              sub("name", "familyName"),
              sub("name", "formatted"),
              enterprise("department"),
              enterprise("employeeNumber"),
              enterprise("division"),
              Map.entry("manager", new Simple(ENTERPRISE, "manager", "value")),
              typed("emails", "work"),
              typed("emails", "other"),
              typed("phoneNumbers", "work"),
              typed("phoneNumbers", "mobile")));

  static Map.Entry<String, ScimAttribute> core(String name) {
    return Map.entry(name, new Simple(null, name, null));
  }

  static Map.Entry<String, ScimAttribute> sub(String name, String sub) {
    return Map.entry(name + "." + sub, new Simple(null, name, sub));
  }

  static Map.Entry<String, ScimAttribute> enterprise(String name) {
    return Map.entry(name, new Simple(ENTERPRISE, name, null));
  }

  static Map.Entry<String, ScimAttribute> typed(String name, String type) {
    return Map.entry(name + "." + type, new Typed(name, type));
  }

  default List<String> read(JsonNode user) {
    return switch (this) {
      case Simple simple -> {
        var at = simple.extension() == null ? user : user.path(simple.extension());
        var value = at.path(simple.name());
        if (simple.sub() != null) {
          value = value.path(simple.sub());
        }
        yield value.isMissingNode() || value.isNull() || value.asString().isEmpty()
            ? List.of()
            : List.of(value.asString());
      }
      case Typed typed ->
          user.path(typed.name())
              .valueStream()
              .filter(value -> typed.type().equals(value.path("type").asString("")))
              .map(value -> value.path("value").asString())
              .toList();
    };
  }

  /** Writes into a user that is about to be created, or into a multi-valued attribute's list. */
  default void write(ObjectNode user, List<String> texts) {
    switch (this) {
      case Simple simple -> {
        var at = simple.extension() == null ? user : user.withObjectProperty(simple.extension());
        if (simple.sub() != null) {
          at = at.withObjectProperty(simple.name());
        }
        if (!texts.isEmpty()) {
          at.put(simple.sub() == null ? simple.name() : simple.sub(), texts.getFirst());
        }
      }
      case Typed typed -> {
        ArrayNode values = user.withArrayProperty(typed.name());
        for (int i = values.size() - 1; i >= 0; i--) {
          if (typed.type().equals(values.get(i).path("type").asString(""))) {
            values.remove(i);
          }
        }
        texts.forEach(
            text ->
                values
                    .addObject()
                    .put("value", text)
                    .put("type", typed.type())
                    .put("primary", typed.type().equals("work")));
      }
    }
  }
}
