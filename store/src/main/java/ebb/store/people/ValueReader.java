package ebb.store.people;

import ebb.core.person.Asserted;
import ebb.core.person.Held;
import ebb.store.Json;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;

/**
 * Reads values that a person holds or a source asserts, token by token: thousands are read at once,
 * and most of one person's were said at one instant, which is read once.
 */
final class ValueReader {
  private final JsonParser parser;
  private String value;
  private String source;
  private Instant since;
  private long cause;
  private LocalDate until;
  private String lastText;
  private Instant lastInstant;

  private ValueReader(JsonParser parser) {
    this.parser = parser;
  }

  static SortedMap<String, Held> held(String json) {
    try (var parser = Json.parser(json)) {
      var reader = new ValueReader(parser);
      var all = new TreeMap<String, Held>();
      for (var name = reader.next(); name != null; name = reader.next()) {
        all.put(name, new Held(reader.value, reader.source, reader.since));
      }
      return all;
    }
  }

  /** The value of one attribute: what follows it is not read. */
  static Optional<String> held(String json, String attribute) {
    try (var parser = Json.parser(json)) {
      var reader = new ValueReader(parser);
      for (var name = reader.next(); name != null; name = reader.next()) {
        if (name.equals(attribute)) {
          return Optional.ofNullable(reader.value);
        }
      }
      return Optional.empty();
    }
  }

  static SortedMap<String, Asserted> asserted(String json) {
    try (var parser = Json.parser(json)) {
      var reader = new ValueReader(parser);
      var all = new TreeMap<String, Asserted>();
      for (var name = reader.next(); name != null; name = reader.next()) {
        all.put(name, new Asserted(reader.value, reader.since, reader.cause, reader.until));
      }
      return all;
    }
  }

  /** The attribute of the next value; null at the end. */
  private String next() {
    if (parser.currentToken() == null) {
      parser.nextToken();
    }
    var attribute = parser.nextName();
    if (attribute != null) {
      parser.nextToken();
      read();
    }
    return attribute;
  }

  private void read() {
    until = null;
    for (var name = parser.nextName(); name != null; name = parser.nextName()) {
      var text = parser.nextToken() == JsonToken.VALUE_NULL ? null : parser.getString();
      switch (name) {
        case "value" -> value = text;
        case "source" -> source = text;
        case "since" -> since = instant(text);
        case "until" -> until = text == null ? null : LocalDate.parse(text);
        case "cause" -> cause = Long.parseLong(text);
        default ->
            throw new IllegalStateException("Nothing is said of the " + name + " of a value");
      }
    }
  }

  private Instant instant(String text) {
    if (text != null && !text.equals(lastText)) {
      lastText = text;
      lastInstant = Instant.parse(text);
    }
    return text == null ? null : lastInstant;
  }
}
