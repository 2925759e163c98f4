package ebb.store.people;

import ebb.core.person.Held;
import ebb.store.Json;
import java.time.Instant;
import java.util.SortedMap;
import java.util.TreeMap;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;

/**
 * Reads what a person holds, token by token: lists show thousands of people, and most of what one
 * holds was said at one instant, which is read once.
 */
final class HeldValues {
  private final JsonParser parser;
  private String lastText;
  private Instant lastInstant;

  private HeldValues(JsonParser parser) {
    this.parser = parser;
  }

  static SortedMap<String, Held> of(String json) {
    try (var parser = Json.parser(json)) {
      return new HeldValues(parser).all();
    }
  }

  private SortedMap<String, Held> all() {
    var all = new TreeMap<String, Held>();
    parser.nextToken();
    for (var name = parser.nextName(); name != null; name = parser.nextName()) {
      parser.nextToken();
      all.put(name, one());
    }
    return all;
  }

  private Held one() {
    String value = null;
    String source = null;
    Instant since = null;
    for (var name = parser.nextName(); name != null; name = parser.nextName()) {
      var text = parser.nextToken() == JsonToken.VALUE_NULL ? null : parser.getString();
      switch (name) {
        case "value" -> value = text;
        case "source" -> source = text;
        case "since" -> since = instant(text);
        default -> throw new IllegalStateException("A person holds no " + name);
      }
    }
    return new Held(value, source, since);
  }

  private Instant instant(String text) {
    if (text != null && !text.equals(lastText)) {
      lastText = text;
      lastInstant = Instant.parse(text);
    }
    return text == null ? null : lastInstant;
  }
}
