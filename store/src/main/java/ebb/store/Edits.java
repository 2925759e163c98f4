package ebb.store;

import ebb.core.application.Value;
import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.SortedMap;
import java.util.TreeMap;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;

/**
 * The column of edits. A set of changes for everybody is mostly this column, so it says each thing
 * once: the ground that all share, and of each attribute only what is not empty.
 *
 * <p>{@code {"ground": …, "edits": {attribute: edit}}}, where an edit is {@code {"before": texts,
 * "after": value, "ground": …}}, or only its value if nothing was there before; texts are one text
 * or a list of them, and a value is texts or {@code {"accountOf": number}}.
 */
public final class Edits {
  /** Null stays null. */
  public static String write(SortedMap<String, Edit> edits) {
    if (edits == null) {
      return null;
    }
    var text = new StringWriter();
    try (var json = Json.generator(text)) {
      var ground = edits.isEmpty() ? null : edits.firstEntry().getValue().ground();
      json.writeStartObject();
      if (ground != null) {
        json.writeStringProperty("ground", ground);
      }
      json.writeObjectPropertyStart("edits");
      edits.forEach((attribute, edit) -> write(json.writeName(attribute), edit, ground));
      json.writeEndObject();
      json.writeEndObject();
    }
    return text.toString();
  }

  private static void write(JsonGenerator json, Edit edit, String shared) {
    if (isEmpty(edit.before()) && Objects.equals(edit.ground(), shared)) {
      write(json, edit.after());
      return;
    }
    json.writeStartObject();
    if (!isEmpty(edit.before())) {
      write(json.writeName("before"), edit.before());
    }
    write(json.writeName("after"), edit.after());
    if (!Objects.equals(edit.ground(), shared)) {
      json.writeStringProperty("ground", edit.ground());
    }
    json.writeEndObject();
  }

  private static boolean isEmpty(List<String> before) {
    return before == null || before.isEmpty();
  }

  private static void write(JsonGenerator json, Value value) {
    if (value.isReference()) {
      json.writeStartObject();
      json.writeNumberProperty("accountOf", value.accountOf().value());
      json.writeEndObject();
    } else {
      write(json, value.texts());
    }
  }

  private static void write(JsonGenerator json, List<String> texts) {
    if (texts.size() == 1 && texts.getFirst() != null) {
      json.writeString(texts.getFirst());
      return;
    }
    json.writeStartArray();
    texts.forEach(json::writeString);
    json.writeEndArray();
  }

  /** Null stays null. */
  public static SortedMap<String, Edit> read(String text) {
    if (text == null) {
      return null;
    }
    try (var json = Json.parser(text)) {
      return new Edits(json).all();
    }
  }

  private final JsonParser json;
  private String shared;

  private Edits(JsonParser json) {
    this.json = json;
  }

  private SortedMap<String, Edit> all() {
    var edits = new TreeMap<String, Edit>();
    json.nextToken();
    for (var name = json.nextName(); name != null; name = json.nextName()) {
      json.nextToken();
      if (name.equals("ground")) {
        shared = json.getString();
      } else {
        for (var attribute = json.nextName(); attribute != null; attribute = json.nextName()) {
          json.nextToken();
          edits.put(attribute, edit());
        }
      }
    }
    return edits;
  }

  private Edit edit() {
    if (json.currentToken() != JsonToken.START_OBJECT) {
      return new Edit(List.of(), Value.of(texts()), shared);
    }
    List<String> before = List.of();
    var after = Value.NOTHING;
    var ground = shared;
    for (var name = json.nextName(); name != null; name = json.nextName()) {
      json.nextToken();
      switch (name) {
        case "accountOf" -> after = Value.accountOf(new PersonId(json.getLongValue()));
        case "before" -> before = texts();
        case "after" -> after = value();
        case "ground" ->
            ground = json.currentToken() == JsonToken.VALUE_NULL ? null : json.getString();
        default -> throw new IllegalStateException("An edit has no " + name);
      }
    }
    return new Edit(before, after, ground);
  }

  private Value value() {
    if (json.currentToken() != JsonToken.START_OBJECT) {
      return Value.of(texts());
    }
    json.nextName();
    json.nextToken();
    var value = Value.accountOf(new PersonId(json.getLongValue()));
    json.nextToken();
    return value;
  }

  private List<String> texts() {
    if (json.currentToken() == JsonToken.VALUE_STRING) {
      return List.of(json.getString());
    }
    var texts = new ArrayList<String>();
    while (json.nextToken() != JsonToken.END_ARRAY) {
      texts.add(json.getString());
    }
    return List.copyOf(texts);
  }
}
