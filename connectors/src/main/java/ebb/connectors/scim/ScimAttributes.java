package ebb.connectors.scim;

import ebb.connectors.scim.ScimAttribute.Kind;
import ebb.connectors.scim.ScimAttribute.Many;
import ebb.connectors.scim.ScimAttribute.Single;
import ebb.connectors.scim.ScimAttribute.Typed;
import ebb.core.application.Equality;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;

/**
 * What rules may fill in one application, by the name they use, as its own schemas say (RFC 7643,
 * 7). A name of an extension stands alone where it is the only one, and behind its schema's urn
 * where the core or another extension has it, too.
 */
final class ScimAttributes {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  /** Set by what they are for, and by no rule. */
  private static final Set<String> NOT_BY_RULE =
      Set.of("id", "externalId", "meta", "schemas", "active", "password", "groups");

  /** Types where the schema names none (RFC 7643, 4.1.2). */
  private static final Map<String, List<String>> TYPES =
      Map.of(
          "emails", List.of("work", "home", "other"),
          "phoneNumbers", List.of("work", "home", "mobile", "fax", "pager", "other"),
          "addresses", List.of("work", "home", "other"),
          "ims", List.of("other"));

  /** Values that are told apart by nothing but themselves. */
  private static final Set<String> UNTYPED = Set.of("roles", "entitlements");

  private final Map<String, ScimAttribute> byName = new TreeMap<>();
  private final Map<String, Equality> equality = new TreeMap<>();
  private final Set<String> required = new TreeSet<>();
  private boolean showsGroups;

  private ScimAttributes() {}

  /**
   * @param extensions schemas that extend a user here
   */
  static ScimAttributes of(Iterable<JsonNode> schemas, Set<String> extensions) {
    var attributes = new ScimAttributes();
    for (var schema : schemas) {
      var id = schema.path("id").asString("");
      if (id.equals(USER)) {
        attributes.addAll(null, schema);
      }
    }
    for (var schema : schemas) {
      var id = schema.path("id").asString("");
      if (extensions.contains(id)) {
        attributes.addAll(id, schema);
      }
    }
    return attributes;
  }

  /** What RFC 7643 has, for an application that shows no schemas. */
  static ScimAttributes standard() {
    var attributes = new ScimAttributes();
    for (var name : List.of("userName", "displayName", "title", "userType", "timezone", "locale")) {
      attributes.put(name, new Single(null, name, null, Kind.TEXT), Equality.IGNORE_CASE_AND_SPACE);
    }
    for (var sub : List.of("givenName", "familyName", "formatted")) {
      attributes.put(
          "name." + sub, new Single(null, "name", sub, Kind.TEXT), Equality.IGNORE_CASE_AND_SPACE);
    }
    for (var name : List.of("department", "division", "employeeNumber")) {
      attributes.put(
          name, new Single(ENTERPRISE, name, null, Kind.TEXT), Equality.IGNORE_CASE_AND_SPACE);
    }
    attributes.put(
        "manager", new Single(ENTERPRISE, "manager", "value", Kind.TEXT), Equality.EXACT);
    attributes.addTyped("emails", TYPES.get("emails"), "value", Equality.IGNORE_CASE_AND_SPACE);
    attributes.addTyped("phoneNumbers", TYPES.get("phoneNumbers"), "value", Equality.TELEPHONE);
    UNTYPED.forEach(
        name -> attributes.put(name, new Many(null, name, true), Equality.IGNORE_CASE_AND_SPACE));
    attributes.required.add("userName");
    attributes.showsGroups = true;
    return attributes;
  }

  Set<String> names() {
    return byName.keySet();
  }

  Map<String, Equality> equality() {
    return equality;
  }

  Set<String> required() {
    return required;
  }

  /** Whether users show the groups they are in. */
  boolean showsGroups() {
    return showsGroups;
  }

  /** Null if the application has no such attribute. */
  ScimAttribute get(String name) {
    return byName.get(name);
  }

  /** All that an account holds, by the names of rules. */
  TreeMap<String, List<String>> read(JsonNode user) {
    var values = new TreeMap<String, List<String>>();
    byName.forEach(
        (name, attribute) -> {
          var texts = attribute.read(user);
          if (!texts.isEmpty()) {
            values.put(name, texts);
          }
        });
    return values;
  }

  private void addAll(String extension, JsonNode schema) {
    for (var attribute : schema.path("attributes")) {
      var name = attribute.path("name").asString("");
      if (extension == null && name.equals("groups")) {
        showsGroups = isReturned(attribute);
      } else if (isWritable(attribute)
          && (extension != null || !NOT_BY_RULE.contains(name))
          && !attribute.path("type").asString("").equals("binary")) {
        add(extension, name, attribute);
      }
    }
  }

  private void add(String extension, String name, JsonNode attribute) {
    var isMany = attribute.path("multiValued").asBoolean(false);
    var isComplex = attribute.path("type").asString("").equals("complex");
    if (isMany && isComplex && extension == null && !UNTYPED.contains(name)) {
      addTyped(name, attribute);
    } else if (isMany) {
      put(free(extension, name), new Many(extension, name, isComplex), equalityOf(attribute, name));
    } else if (isComplex) {
      addParts(extension, name, attribute);
    } else {
      var kind = Kind.of(attribute.path("type").asString("string"));
      var known = free(extension, name);
      put(known, new Single(extension, name, null, kind), equalityOf(attribute, name));
      if (attribute.path("required").asBoolean(false)) {
        required.add(known);
      }
    }
  }

  private void addParts(String extension, String name, JsonNode attribute) {
    for (var part : attribute.path("subAttributes")) {
      var sub = part.path("name").asString("");
      if (isWritable(part)) {
        // Somebody's manager is the one reference of the standard; a rule calls it by one word.
        var known =
            name.equals("manager") && sub.equals("value")
                ? free(extension, name)
                : free(extension, name + "." + sub);
        var kind = Kind.of(part.path("type").asString("string"));
        put(known, new Single(extension, name, sub, kind), equalityOf(part, name));
        if (part.path("required").asBoolean(false)) {
          required.add(known);
        }
      }
    }
  }

  private void addTyped(String name, JsonNode attribute) {
    var types = TYPES.getOrDefault(name, List.of("work", "home", "other"));
    var subs = new TreeMap<String, Equality>();
    for (var part : attribute.path("subAttributes")) {
      var sub = part.path("name").asString("");
      if (sub.equals("type") && !part.path("canonicalValues").isEmpty()) {
        types = part.path("canonicalValues").valueStream().map(JsonNode::asString).toList();
      } else if (isWritable(part) && !Set.of("type", "primary", "display", "$ref").contains(sub)) {
        subs.put(sub, equalityOf(part, name));
      }
    }
    var all = types;
    if (subs.containsKey("value")) {
      addTyped(name, all, "value", subs.get("value"));
    } else {
      subs.forEach((sub, same) -> addTyped(name, all, sub, same));
    }
  }

  private void addTyped(String name, List<String> types, String sub, Equality same) {
    for (var type : types) {
      var known = name + "." + type + (sub.equals("value") ? "" : "." + sub);
      put(known, new Typed(name, type, sub), same);
    }
  }

  private void put(String name, ScimAttribute attribute, Equality same) {
    byName.put(name, attribute);
    equality.put(name, same);
  }

  private String free(String extension, String name) {
    return extension != null && byName.containsKey(name) ? extension + ":" + name : name;
  }

  private static boolean isWritable(JsonNode attribute) {
    return !attribute.path("mutability").asString("readWrite").equals("readOnly");
  }

  private static boolean isReturned(JsonNode attribute) {
    return attribute.path("returned").asString("default").matches("default|always");
  }

  private static Equality equalityOf(JsonNode attribute, String name) {
    if (name.equals("phoneNumbers")) {
      return Equality.TELEPHONE;
    }
    var type = attribute.path("type").asString("string");
    return !type.matches("string|complex") || attribute.path("caseExact").asBoolean(false)
        ? Equality.EXACT
        : Equality.IGNORE_CASE_AND_SPACE;
  }
}
