package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.BooleanNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.types.AttributeDefinition;
import com.unboundid.scim2.common.types.SchemaResource;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.store.push.Resource;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.StreamSupport;

/**
 * Looks whether a resource is one, and brings it into one form: names in the letter case of their
 * schema, nothing that is empty or ours to say. All that is amiss is said at once.
 */
final class ResourceCheck {
  static final String ID = "id";
  static final String EXTERNAL_ID = "externalId";
  static final String META = "meta";
  static final String SCHEMAS = "schemas";

  /** Whoever sends these may: they are ours to say, and left out (RFC 7643, section 3.1). */
  private static final Set<String> OURS = Set.of(ID, META, "groups");

  private static final int LONGEST = 64 * 1024;
  private static final int LONGEST_ID = 200;
  private static final String SHORT_TEXT = "a text of up to %d characters".formatted(LONGEST_ID);

  private final PushSchemas schemas;
  private final Resource.Kind kind;
  private final List<Problem> problems = new ArrayList<>();

  private ResourceCheck(PushSchemas schemas, Resource.Kind kind) {
    this.schemas = schemas;
    this.kind = kind;
  }

  /**
   * @return a copy in the one form, without id and meta
   * @throws Refusal naming all that is amiss
   */
  static ObjectNode checked(JsonNode sent, Resource.Kind kind, PushSchemas schemas) {
    var check = new ResourceCheck(schemas, kind);
    if (!(sent instanceof ObjectNode resource)) {
      throw Refusal.invalid(notAnObject());
    }
    var checked = check.resource(resource);
    if (!check.problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, check.problems);
    }
    return checked;
  }

  private ObjectNode resource(ObjectNode sent) {
    var core = PushSchemas.core(kind);
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    out.putArray(SCHEMAS).add(core.getId());
    mustNameItsSchema(sent, core);
    for (var field : sent.properties()) {
      var name = field.getKey();
      if (name.equalsIgnoreCase(SCHEMAS) || OURS.stream().anyMatch(name::equalsIgnoreCase)) {
        continue;
      }
      if (name.equalsIgnoreCase(EXTERNAL_ID)) {
        externalId(field.getValue(), out);
      } else if (name.toLowerCase(Locale.ROOT).startsWith("urn:")) {
        extension(name, field.getValue(), out);
      } else {
        attribute(core.getAttributes(), name, field.getValue(), "", out);
      }
    }
    requireAll(core, out);
    if (out.toString().length() > LONGEST) {
      problems.add(tooLong());
    }
    return out;
  }

  private void mustNameItsSchema(ObjectNode sent, SchemaResource core) {
    var named = sent.path(SCHEMAS);
    var isNamed =
        StreamSupport.stream(named.spliterator(), false)
            .anyMatch(one -> one.asText().equalsIgnoreCase(core.getId()));
    if (!isNamed) {
      problems.add(
          new Problem(
              "scim-schema-missing",
              "The resource does not say that it is a %s.".formatted(core.getName()),
              "Its schemas lack %s (RFC 7643, section 3).".formatted(core.getId()),
              "Add it to schemas.",
              Where.field(SCHEMAS)));
    }
  }

  private void externalId(JsonNode value, ObjectNode out) {
    if (value.isNull()) {
      return;
    }
    if (!value.isTextual() || value.asText().length() > LONGEST_ID) {
      problems.add(mistyped(EXTERNAL_ID, SHORT_TEXT, value));
    } else if (!value.asText().isBlank()) {
      out.put(EXTERNAL_ID, value.asText().strip());
    }
  }

  private void extension(String urn, JsonNode value, ObjectNode out) {
    var schema =
        schemas.extensions(kind).stream()
            .filter(one -> one.getId().equalsIgnoreCase(urn))
            .findFirst();
    if (schema.isEmpty()) {
      problems.add(unknown(urn));
    } else if (value instanceof ObjectNode sent) {
      var node = attributes(schema.get().getAttributes(), sent, schema.get().getId() + ":");
      if (!node.isEmpty()) {
        ((ArrayNode) out.get(SCHEMAS)).add(schema.get().getId());
        out.set(schema.get().getId(), node);
      }
    } else if (!value.isNull()) {
      problems.add(mistyped(urn, "an object", value));
    }
  }

  private ObjectNode attributes(
      Collection<AttributeDefinition> known, ObjectNode sent, String path) {
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    for (var field : sent.properties()) {
      attribute(known, field.getKey(), field.getValue(), path, out);
    }
    return out;
  }

  private void attribute(
      Collection<AttributeDefinition> known,
      String name,
      JsonNode value,
      String path,
      ObjectNode out) {
    var found = PushSchemas.find(known, name);
    if (found.isEmpty()) {
      problems.add(unknown(path + name));
      return;
    }
    var definition = found.get();
    if (definition.getMutability() == AttributeDefinition.Mutability.READ_ONLY
        || JsonUtils.isNullNodeOrEmptyArray(value)) {
      return;
    }
    var here = path + definition.getName();
    var good =
        definition.isMultiValued()
            ? several(definition, value, here)
            : one(definition, value, here);
    if (good != null && !(good.isContainerNode() && good.isEmpty())) {
      out.set(definition.getName(), good);
    }
  }

  private JsonNode several(AttributeDefinition definition, JsonNode value, String path) {
    if (!value.isArray()) {
      problems.add(mistyped(path, "a list", value));
      return null;
    }
    var out = JsonUtils.getJsonNodeFactory().arrayNode();
    int primary = 0;
    for (var each : value) {
      var good = one(definition, each, path);
      if (good != null) {
        primary += good.path("primary").asBoolean() ? 1 : 0;
        out.add(good);
      }
    }
    if (primary > 1) {
      problems.add(
          new Problem(
              "scim-primary-twice",
              "%d of %s are primary.".formatted(primary, path),
              "One at most is the one to use (RFC 7643, section 2.4).",
              "Mark one of them.",
              Where.field(path)));
    }
    return out;
  }

  /** Null where it cannot be taken. */
  private JsonNode one(AttributeDefinition definition, JsonNode value, String path) {
    return switch (definition.getType()) {
      case COMPLEX ->
          value instanceof ObjectNode sent
              ? attributes(definition.getSubAttributes(), sent, path + ".")
              : amiss(path, "an object", value);
      case BOOLEAN -> bool(value, path);
      case DECIMAL, INTEGER -> value.isNumber() ? value : amiss(path, "a number", value);
      default ->
          !value.isTextual()
              ? amiss(path, "a text", value)
              : value.asText().chars().anyMatch(Character::isISOControl)
                  ? amiss(path, "one line without tabs", value)
                  : value;
    };
  }

  /** Many senders write it as a text. */
  private JsonNode bool(JsonNode value, String path) {
    if (value.isBoolean()) {
      return value;
    }
    var text = value.asText("");
    return text.equalsIgnoreCase("true") || text.equalsIgnoreCase("false")
        ? BooleanNode.valueOf(text.equalsIgnoreCase("true"))
        : amiss(path, "true or false", value);
  }

  private void requireAll(SchemaResource core, ObjectNode out) {
    core.getAttributes().stream()
        .filter(AttributeDefinition::isRequired)
        .filter(one -> out.path(one.getName()).asText("").isBlank())
        .filter(one -> problems.stream().noneMatch(problem -> isAbout(problem, one.getName())))
        .forEach(
            one ->
                problems.add(
                    new Problem(
                        "scim-attribute-missing",
                        "%s is missing.".formatted(one.getName()),
                        "A %s cannot be without it.".formatted(core.getName()),
                        "Send it.",
                        Where.field(one.getName()))));
    core.getAttributes().stream()
        .filter(AttributeDefinition::isRequired)
        .map(one -> Map.entry(one.getName(), out.path(one.getName())))
        .filter(one -> one.getValue().asText("").length() > LONGEST_ID)
        .forEach(one -> problems.add(mistyped(one.getKey(), SHORT_TEXT, one.getValue())));
  }

  private static boolean isAbout(Problem problem, String path) {
    return problem.where() != null && path.equals(problem.where().column());
  }

  private JsonNode amiss(String path, String wanted, JsonNode value) {
    problems.add(mistyped(path, wanted, value));
    return null;
  }

  private static Problem mistyped(String path, String wanted, JsonNode value) {
    return new Problem(
        "scim-value-mistyped",
        "%s is not %s.".formatted(path, wanted),
        "It is %s.".formatted(shortened(value)),
        "Send it as /scim/v2/Schemas says.",
        Where.field(path));
  }

  private static String shortened(JsonNode value) {
    var text = value.toString();
    return text.length() > 60 ? text.substring(0, 60) + "…" : text;
  }

  private static Problem unknown(String path) {
    return new Problem(
        "scim-attribute-unknown",
        "There is no attribute %s.".formatted(path),
        "It would be lost, and whoever sends it would think that it arrived.",
        "Leave it out, or have it defined here; /scim/v2/Schemas names those there are.",
        Where.field(path));
  }

  private static Problem notAnObject() {
    return new Problem(
        "scim-body-invalid",
        "The body is no resource.",
        "It holds no JSON object.",
        "Send a resource as RFC 7643 describes it.",
        Where.field("body"));
  }

  private static Problem tooLong() {
    return new Problem(
        "scim-resource-too-long",
        "The resource is longer than %d KB.".formatted(LONGEST / 1024),
        "Nobody has so much to say of one person.",
        "Send less.",
        Where.field("body"));
  }
}
