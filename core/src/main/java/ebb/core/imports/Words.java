package ebb.core.imports;

import ebb.core.name.Folding;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;

/** What columns are called where people keep lists. */
final class Words {
  /** A resource beside this class: under each name what it may be called, commas between. */
  static Map<String, List<String>> of(String resource) {
    var properties = new Properties();
    try (var reader =
        new InputStreamReader(Words.class.getResourceAsStream(resource), StandardCharsets.UTF_8)) {
      properties.load(reader);
    } catch (IOException e) {
      throw new UncheckedIOException("The words for headings are part of this program", e);
    }
    return properties.entrySet().stream()
        .collect(
            Collectors.toMap(
                entry -> entry.getKey().toString(),
                entry ->
                    Arrays.stream(entry.getValue().toString().split(","))
                        .map(String::strip)
                        .toList()));
  }

  /** The same words as they are compared: without case, accents, spaces and signs. */
  static Map<String, Set<String>> folded(Map<String, List<String>> words) {
    return words.entrySet().stream()
        .collect(
            Collectors.toMap(
                Map.Entry::getKey,
                entry ->
                    entry.getValue().stream()
                        .map(Folding::forComparing)
                        .collect(Collectors.toSet())));
  }

  private Words() {}
}
