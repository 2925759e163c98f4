package ebb.connectors.scim;

import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Where an attribute of a rule stands in a SCIM user (RFC 7643, 2.3 and 2.4).
 *
 * <p>An extension is null for the core schema.
 */
sealed interface ScimAttribute {
  /** The kind of value at a place, as far as it is written differently in JSON. */
  enum Kind {
    TEXT,
    NUMBER,
    YES_NO;

    static Kind of(String type) {
      return switch (type) {
        case "boolean" -> YES_NO;
        case "integer", "decimal" -> NUMBER;
        default -> TEXT;
      };
    }
  }

  /** One value, at a path of at most two names. */
  record Single(String extension, String name, String sub, Kind kind) implements ScimAttribute {}

  /** All values of one type in a multi-valued attribute: the addresses of type work. */
  record Typed(String name, String type, String sub) implements ScimAttribute {}

  /** All values of a multi-valued attribute; the first one is the primary one. */
  record Many(String extension, String name, boolean isComplex) implements ScimAttribute {}

  String name();

  default String extension() {
    return switch (this) {
      case Single single -> single.extension;
      case Many many -> many.extension;
      case Typed _ -> null;
    };
  }

  /** The path of a PATCH operation on all of the attribute (RFC 7644, 3.5.2). */
  default String path() {
    var sub = this instanceof Single single && single.sub() != null ? "." + single.sub() : "";
    return (extension() == null ? "" : extension() + ":") + name() + sub;
  }

  /** What the attribute holds in a user, as texts; empty where it is missing. */
  default List<String> read(JsonNode user) {
    var at = extension() == null ? user : user.path(extension());
    return switch (this) {
      case Single single ->
          texts(
              single.sub() == null
                  ? at.path(single.name())
                  : at.path(single.name()).path(single.sub()));
      case Typed typed ->
          at.path(typed.name())
              .valueStream()
              .filter(value -> isOf(typed, value))
              .flatMap(value -> texts(value.path(typed.sub())).stream())
              .toList();
      case Many many -> {
        var all = new ArrayList<String>();
        for (var value : at.path(many.name())) {
          var texts = texts(many.isComplex() ? value.path("value") : value);
          if (value.path("primary").asBoolean(false)) {
            all.addAll(0, texts);
          } else {
            all.addAll(texts);
          }
        }
        yield all;
      }
    };
  }

  private static List<String> texts(JsonNode value) {
    return value.isValueNode() && !value.isNull() && !value.asString("").isEmpty()
        ? List.of(value.asString())
        : List.of();
  }

  /** Puts values into a user, in place of those of this attribute alone. */
  default void write(ObjectNode user, List<String> texts) {
    var at = extension() == null ? user : user.withObjectProperty(extension());
    switch (this) {
      case Single single -> put(single, at, texts);
      case Typed typed -> put(typed, at.withArrayProperty(typed.name()), texts);
      case Many many -> put(many, at.putArray(many.name()), texts);
    }
    if (at != user && at.isEmpty()) {
      user.remove(extension());
    }
  }

  /** What the attribute's whole JSON value is in a user; missing where there is none. */
  default JsonNode whole(JsonNode user) {
    var at = extension() == null ? user : user.path(extension());
    return this instanceof Single single && single.sub() != null
        ? at.path(single.name()).path(single.sub())
        : at.path(name());
  }

  private static void put(ObjectNode at, String name, String text, Kind kind) {
    switch (kind) {
      case TEXT -> at.put(name, text);
      case YES_NO -> at.put(name, Boolean.parseBoolean(text));
      case NUMBER -> {
        if (text.matches("-?\\d{1,18}")) {
          at.put(name, Long.parseLong(text));
        } else {
          // The application says what is wrong with it, in the name of its own schema.
          at.put(name, text);
        }
      }
    }
  }

  private static void put(Single single, ObjectNode at, List<String> texts) {
    var sub = single.sub();
    if (texts.isEmpty()) {
      if (sub == null) {
        at.remove(single.name());
      } else if (at.path(single.name()) instanceof ObjectNode inner) {
        inner.remove(sub);
        if (inner.isEmpty()) {
          at.remove(single.name());
        }
      }
    } else if (sub == null) {
      put(at, single.name(), texts.getFirst(), single.kind());
    } else {
      put(at.withObjectProperty(single.name()), sub, texts.getFirst(), single.kind());
    }
  }

  private static boolean isOf(Typed typed, JsonNode value) {
    return typed.type().equalsIgnoreCase(value.path("type").asString(""));
  }

  private static void put(Typed typed, ArrayNode values, List<String> texts) {
    var hadPrimary = false;
    for (int i = values.size() - 1; i >= 0; i--) {
      if (isOf(typed, values.get(i))) {
        if (typed.sub().equals("value")) {
          hadPrimary |= values.get(i).path("primary").asBoolean(false);
          values.remove(i);
        } else if (values.get(i) instanceof ObjectNode complex) {
          complex.remove(typed.sub());
        }
      }
    }
    var isFirst =
        hadPrimary || values.valueStream().noneMatch(one -> one.path("primary").asBoolean(false));
    for (var text : texts) {
      if (typed.sub().equals("value")) {
        values.addObject().put("value", text).put("type", typed.type()).put("primary", isFirst);
        isFirst = false;
      } else {
        entry(typed, values).put(typed.sub(), text);
      }
    }
  }

  private static void put(Many many, ArrayNode values, List<String> texts) {
    for (var text : texts) {
      if (many.isComplex()) {
        values.addObject().put("value", text).put("primary", values.size() == 1);
      } else {
        values.add(text);
      }
    }
  }

  /** The one value of a type whose parts are attributes of their own: the street of an address. */
  private static ObjectNode entry(Typed typed, ArrayNode values) {
    for (var value : values) {
      if (isOf(typed, value) && value instanceof ObjectNode complex) {
        return complex;
      }
    }
    return values.addObject().put("type", typed.type());
  }
}
