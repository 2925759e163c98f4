package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.types.AttributeDefinition;
import com.unboundid.scim2.common.types.SchemaResource;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.store.push.Resource;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * The operations of a PATCH (RFC 7644, section 3.5.2) as senders write them, in the one form in
 * which the library carries them out.
 */
final class PushPatch {
  private static final Set<String> READ_ONLY = Set.of("id", "meta", "schemas", "groups");
  private static final Set<String> OPERATIONS = Set.of("add", "replace", "remove");

  private final Resource.Kind kind;
  private final PushSchemas schemas;

  private PushPatch(Resource.Kind kind, PushSchemas schemas) {
    this.kind = kind;
    this.schemas = schemas;
  }

  /**
   * @throws Refusal if one of them is broken, or would write what is ours to say
   */
  static void intoOneForm(ArrayNode operations, Resource.Kind kind, PushSchemas schemas) {
    var patch = new PushPatch(kind, schemas);
    var all = new ArrayList<JsonNode>();
    operations.forEach(one -> patch.add(one, all));
    operations.removeAll();
    operations.addAll(all);
  }

  private void add(JsonNode sent, List<JsonNode> all) {
    if (!(sent instanceof ObjectNode one)) {
      throw Refusal.invalid(notUnderstood("An operation is %s.".formatted(sent)));
    }
    var op = one.path("op").asText("").toLowerCase(Locale.ROOT);
    if (!OPERATIONS.contains(op)) {
      throw Refusal.invalid(
          notUnderstood("%s is no operation: there are add, replace and remove.".formatted(op)));
    }
    one.put("op", op);
    if (one.has("path") && !one.path("path").isTextual()) {
      throw Refusal.invalid(path(one.path("path").toString(), "It is no text."));
    }
    if (one.hasNonNull("path")) {
      withPath(one, op, all);
    } else {
      withoutPath(one, op, all);
    }
  }

  private void withPath(ObjectNode one, String op, List<JsonNode> all) {
    var path = one.path("path").asText();
    if (path.isBlank()) {
      throw Refusal.invalid(path(path, "It is empty."));
    }
    if (PushedFilter.isLeftOpen(path)) {
      throw Refusal.invalid(path(path, "A bracket is opened and never closed."));
    }
    var plain = withoutCore(path);
    var first = plain.split("[.\\[]", 2)[0].toLowerCase(Locale.ROOT);
    if (READ_ONLY.contains(first)) {
      throw Refusal.invalid(readOnly(path));
    }
    one.put("path", plain);
    var extension =
        schemas.extensions(kind).stream()
            .filter(schema -> schema.getId().equalsIgnoreCase(plain))
            .findFirst();
    if (extension.isPresent()) {
      ofExtension(extension.get(), one, op, all);
      return;
    }
    if (op.equals("remove")) {
      one.remove("value");
      all.add(one);
      return;
    }
    var value = one.get("value");
    if (value == null) {
      throw Refusal.invalid(notUnderstood("The operation %s %s has no value.".formatted(op, path)));
    }
    if (value.isNull()) {
      // No value is the same as an attribute that is not there (RFC 7643, section 2.5).
      if (op.equals("replace")) {
        all.add(removing(plain));
      }
      return;
    }
    if (value.isObject() && isSeveral(plain)) {
      one.set("value", JsonUtils.getJsonNodeFactory().arrayNode().add(value));
    }
    all.add(one);
  }

  /** Attribute by attribute: those that are not named stay as they are. */
  private void ofExtension(
      SchemaResource extension, ObjectNode one, String op, List<JsonNode> all) {
    var value = one.get("value");
    if (op.equals("remove") || (op.equals("replace") && value != null && value.isNull())) {
      extension
          .getAttributes()
          .forEach(attribute -> all.add(removing(extension.getId() + ":" + attribute.getName())));
      return;
    }
    if (!(value instanceof ObjectNode parts)) {
      throw Refusal.invalid(
          notUnderstood("The value of %s is no object.".formatted(extension.getId())));
    }
    var names = new ArrayList<String>();
    parts.fieldNames().forEachRemaining(names::add);
    names.forEach(
        name ->
            add(
                JsonUtils.getJsonNodeFactory()
                    .objectNode()
                    .put("op", op)
                    .put("path", extension.getId() + ":" + name)
                    .set("value", parts.get(name)),
                all));
  }

  private void withoutPath(ObjectNode one, String op, List<JsonNode> all) {
    if (op.equals("remove")) {
      throw Refusal.invalid(
          new Problem(
              ScimErrors.NO_TARGET,
              "It is not said what is to be removed.",
              "The operation remove has no path (RFC 7644, section 3.5.2.2).",
              "Name it in path.",
              Where.field("path")));
    }
    if (!(one.path("value") instanceof ObjectNode value)) {
      throw Refusal.invalid(
          notUnderstood(
              "The operation %s has neither a path nor an object as value.".formatted(op)));
    }
    var names = new ArrayList<String>();
    value.fieldNames().forEachRemaining(names::add);
    for (var name : names) {
      if (READ_ONLY.contains(name.toLowerCase(Locale.ROOT))) {
        continue;
      }
      add(
          JsonUtils.getJsonNodeFactory()
              .objectNode()
              .put("op", op)
              .put("path", name)
              .set("value", value.get(name)),
          all);
    }
  }

  private static ObjectNode removing(String path) {
    return JsonUtils.getJsonNodeFactory().objectNode().put("op", "remove").put("path", path);
  }

  /** A core attribute may be named with the URN of its schema. */
  private String withoutCore(String path) {
    var urn = PushSchemas.core(kind).getId() + ":";
    return path.regionMatches(true, 0, urn, 0, urn.length()) ? path.substring(urn.length()) : path;
  }

  private boolean isSeveral(String path) {
    return PushSchemas.find(PushSchemas.core(kind).getAttributes(), path)
        .filter(AttributeDefinition::isMultiValued)
        .isPresent();
  }

  /**
   * Of several values that are primary, those that were before are so no more (RFC 7644, section
   * 3.5.2).
   *
   * @param before the resource before the patch
   */
  static void onePrimary(ObjectNode before, ObjectNode patched) {
    for (var field : patched.properties()) {
      if (field.getValue() instanceof ArrayNode values && primary(values).size() > 1) {
        var old = new HashSet<String>();
        primary(before.path(field.getKey())).forEach(one -> old.add(one.path("value").asText()));
        primary(values).stream()
            .filter(one -> old.contains(one.path("value").asText()))
            .forEach(one -> one.put("primary", false));
      }
    }
  }

  private static List<ObjectNode> primary(JsonNode values) {
    var primary = new ArrayList<ObjectNode>();
    values.forEach(
        one -> {
          if (one instanceof ObjectNode object && object.path("primary").asBoolean()) {
            primary.add(object);
          }
        });
    return primary;
  }

  static Problem notUnderstood(String why) {
    return new Problem(
        ScimErrors.SYNTAX,
        "The PATCH cannot be understood.",
        why,
        "Send Operations as RFC 7644, section 3.5.2 describes them.",
        Where.field("Operations"));
  }

  private static Problem path(String path, String why) {
    return new Problem(
        ScimErrors.PATH,
        "The path %s cannot be understood.".formatted(path),
        why,
        "Write the path as RFC 7644, section 3.5.2 describes it.",
        Where.field("path"));
  }

  private static Problem readOnly(String path) {
    return new Problem(
        ScimErrors.READ_ONLY,
        "%s is not the sender's to say.".formatted(path),
        "It is read-only (RFC 7643, sections 3.1 and 4.1.2).",
        "Leave the operation out.",
        Where.field("path"));
  }
}
