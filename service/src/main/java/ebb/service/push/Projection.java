package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.StreamSupport;

/**
 * Which attributes of a resource are shown (RFC 7644, section 3.9): those that are named and none
 * else, or all but those excluded. Names come in any letter case, with or without the URN of their
 * schema, and may name a part of each of several values. id and schemas are always shown (RFC 7643,
 * section 3.1); a name that nothing has shows nothing.
 *
 * @param attributes empty for all
 */
record Projection(List<String> attributes, List<String> excluded) {
  static final Projection ALL = new Projection(List.of(), List.of());

  private static final Set<String> ALWAYS = Set.of("id", "schemas");

  /**
   * @param attributes names with commas between them; null for all
   */
  static Projection of(String attributes, String excluded) {
    return new Projection(names(attributes), names(excluded));
  }

  static Projection of(JsonNode attributes, JsonNode excluded) {
    return new Projection(names(attributes), names(excluded));
  }

  private static List<String> names(String list) {
    return list == null
        ? List.of()
        : Arrays.stream(list.split(",")).map(String::strip).filter(one -> !one.isEmpty()).toList();
  }

  private static List<String> names(JsonNode list) {
    return list.isTextual()
        ? names(list.asText())
        : StreamSupport.stream(list.spliterator(), false).map(JsonNode::asText).toList();
  }

  ObjectNode of(ObjectNode resource) {
    if (attributes.isEmpty()) {
      excluded.forEach(name -> remove(resource, path(resource, name)));
      return resource;
    }
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    ALWAYS.stream().sorted().forEach(name -> copy(resource, out, List.of(name)));
    attributes.forEach(name -> copy(resource, out, path(resource, name)));
    return out;
  }

  /** The names from the outermost object to what is named. */
  private static List<String> path(ObjectNode resource, String name) {
    if (!name.toLowerCase(Locale.ROOT).startsWith("urn:")) {
      return List.of(name.split("\\."));
    }
    var urns = resource.properties().stream().map(one -> one.getKey()).toList();
    for (var urn : urns) {
      if (name.equalsIgnoreCase(urn)) {
        return List.of(urn);
      }
      if (name.length() > urn.length()
          && name.regionMatches(true, 0, urn + ":", 0, urn.length() + 1)) {
        var path = new ArrayList<>(List.of(urn));
        path.addAll(List.of(name.substring(urn.length() + 1).split("\\.")));
        return path;
      }
    }
    for (var core : List.of(PushSchemas.USER, PushSchemas.GROUP)) {
      if (name.regionMatches(true, 0, core + ":", 0, core.length() + 1)) {
        return List.of(name.substring(core.length() + 1).split("\\."));
      }
    }
    return List.of(name);
  }

  private static Optional<String> field(ObjectNode object, String name) {
    return object.properties().stream()
        .map(one -> one.getKey())
        .filter(name::equalsIgnoreCase)
        .findFirst();
  }

  private static void copy(ObjectNode from, ObjectNode to, List<String> path) {
    var name = field(from, path.getFirst());
    if (name.isEmpty()) {
      return;
    }
    var value = from.get(name.get());
    if (path.size() == 1) {
      to.set(name.get(), value);
      return;
    }
    var rest = path.subList(1, path.size());
    switch (value) {
      case ObjectNode inner -> {
        var target =
            to.get(name.get()) instanceof ObjectNode there
                ? there
                : JsonUtils.getJsonNodeFactory().objectNode();
        copy(inner, target, rest);
        if (!target.isEmpty()) {
          to.set(name.get(), target);
        }
      }
      case ArrayNode several -> {
        var targets =
            to.get(name.get()) instanceof ArrayNode there ? there : emptyFor(several.size());
        for (int i = 0; i < several.size(); i++) {
          if (several.get(i) instanceof ObjectNode one
              && targets.get(i) instanceof ObjectNode into) {
            copy(one, into, rest);
          }
        }
        to.set(name.get(), targets);
      }
      default -> {}
    }
  }

  private static ArrayNode emptyFor(int size) {
    var all = JsonUtils.getJsonNodeFactory().arrayNode();
    for (int i = 0; i < size; i++) {
      all.addObject();
    }
    return all;
  }

  private static void remove(ObjectNode from, List<String> path) {
    var name = field(from, path.getFirst());
    if (name.isEmpty() || ALWAYS.contains(name.get())) {
      return;
    }
    if (path.size() == 1) {
      from.remove(name.get());
      return;
    }
    var rest = path.subList(1, path.size());
    switch (from.get(name.get())) {
      case ObjectNode inner -> remove(inner, rest);
      case ArrayNode several ->
          several.forEach(
              one -> {
                if (one instanceof ObjectNode object) {
                  remove(object, rest);
                }
              });
      default -> {}
    }
  }
}
