package ebb.connectors.file;

import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedSet;
import java.util.function.Supplier;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MappingIterator;
import tools.jackson.databind.json.JsonMapper;

/**
 * One JSON object (RFC 8259) after the other, or an array of them, read as a stream. What is inside
 * an object gets a heading with dots; entries of a list that say their type, as those of RFC 7643
 * section 2.4 do, get it into their heading.
 */
final class JsonRows implements Rows {
  private static final int LONGEST_VALUE = 256 * 1024;
  private static final JsonMapper MAPPER =
      JsonMapper.builder(
              JsonFactory.builder()
                  .streamReadConstraints(
                      StreamReadConstraints.builder()
                          .maxStringLength(LONGEST_VALUE)
                          .maxNestingDepth(20)
                          .build())
                  .build())
          .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
          .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .build();

  private final String name;
  private final MappingIterator<JsonNode> objects;
  private final List<String> headings;
  private long line = 1;

  private JsonRows(String name, MappingIterator<JsonNode> objects, List<String> headings) {
    this.name = name;
    this.objects = objects;
    this.headings = headings;
  }

  /** Reads it once for its headings, which any line may add to, and opens it again. */
  static JsonRows open(Path file, String name, String charset) throws IOException {
    SequencedSet<String> headings = new LinkedHashSet<>();
    try (var first = new JsonRows(name, objects(file, name, charset), List.of())) {
      for (var one = first.object(); one.isPresent(); one = first.object()) {
        headings.addAll(one.get().keySet());
        if (headings.size() > Headings.MOST) {
          throw Amiss.tooManyColumns(name, headings.size(), Headings.MOST);
        }
      }
    }
    if (headings.isEmpty()) {
      throw Amiss.empty(name);
    }
    return new JsonRows(name, objects(file, name, charset), List.copyOf(headings));
  }

  @Override
  public List<String> headings() {
    return headings;
  }

  @Override
  public Optional<Row> next() {
    return object()
        .map(
            values ->
                new Row(line, headings.stream().map(h -> values.getOrDefault(h, "")).toList()));
  }

  @Override
  public void close() {
    objects.close();
  }

  private Optional<Map<String, String>> object() {
    if (!read(objects::hasNextValue)) {
      return Optional.empty();
    }
    var node = read(objects::nextValue);
    line = objects.currentLocation().getLineNr();
    if (!node.isObject()) {
      throw Amiss.notJson(name, "it is no object", line);
    }
    var values = new LinkedHashMap<String, String>();
    flatten("", node, values);
    return Optional.of(values);
  }

  private static void flatten(String path, JsonNode node, Map<String, String> values) {
    switch (node.getNodeType()) {
      case OBJECT ->
          node.properties()
              .forEach(entry -> flatten(joined(path, entry.getKey()), entry.getValue(), values));
      case ARRAY -> list(path, node, values);
      case NULL, MISSING -> values.put(path, "");
      default -> values.put(path, node.asString());
    }
  }

  private static void list(String path, JsonNode list, Map<String, String> values) {
    var plain = new ArrayList<String>();
    for (var one : list) {
      if (one.isObject() && one.has("value")) {
        var type = one.path("type").asString("");
        values.putIfAbsent(type.isEmpty() ? path : joined(path, type), one.get("value").asString());
      } else if (one.isValueNode()) {
        plain.add(one.asString());
      }
    }
    if (!plain.isEmpty()) {
      values.put(path, String.join("; ", plain));
    }
  }

  private static String joined(String path, String name) {
    return path.isEmpty() ? name : path + "." + name;
  }

  private <T> T read(Supplier<T> step) {
    try {
      return step.get();
    } catch (JacksonException e) {
      throw failed(name, e);
    }
  }

  private static MappingIterator<JsonNode> objects(Path file, String name, String charset)
      throws IOException {
    try {
      return MAPPER.readerFor(JsonNode.class).readValues(Encoding.reader(file, charset));
    } catch (JacksonException e) {
      throw failed(name, e);
    }
  }

  private static RuntimeException failed(String name, JacksonException e) {
    var at = e.getLocation();
    return Amiss.notJson(name, e.getOriginalMessage(), at == null ? 1 : at.getLineNr());
  }
}
