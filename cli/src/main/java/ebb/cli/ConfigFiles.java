package ebb.cli;

import java.io.IOException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import tools.jackson.core.JacksonException;
import tools.jackson.core.util.DefaultIndenter;
import tools.jackson.core.util.DefaultPrettyPrinter;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A folder of files that say how Ebb is set up. */
final class ConfigFiles {
  /** Grows when files of before could be misunderstood. */
  private static final int FORMAT = 1;

  static final String LIMITS = "limits";

  private static final String END = ".json";

  private static final JsonMapper PRETTY =
      JsonMapper.builder()
          .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
          .defaultPrettyPrinter(
              new DefaultPrettyPrinter()
                  .withObjectIndenter(new DefaultIndenter("  ", "\n"))
                  .withArrayIndenter(new DefaultIndenter("  ", "\n")))
          .build();

  private final Path folder;

  ConfigFiles(Path folder) {
    this.folder = folder;
  }

  void begin() throws IOException {
    Files.createDirectories(folder);
    write(folder.resolve("ebb" + END), Service.JSON.createObjectNode().put("format", FORMAT));
  }

  /**
   * @throws Failure if there is no such folder, or a newer Ebb wrote it
   */
  void mustBeReadable() throws IOException {
    var about = folder.resolve("ebb" + END);
    if (Files.notExists(about)) {
      throw new Failure(
          "There is no %s in %s.".formatted(about.getFileName(), folder),
          "By it the files of a configuration are known.",
          "Name the folder that was exported: ebb config export " + folder);
    }
    var format = read(about).path("format").asInt(0);
    if (format > FORMAT) {
      throw new Failure(
          "%s is of format %d; this Ebb knows formats up to %d.".formatted(folder, format, FORMAT),
          "A newer Ebb wrote it, and what it says could be misunderstood.",
          "Load it with that version, or export it anew from this one.");
    }
  }

  /** Takes the place of all files of this kind. */
  void write(String kind, SortedMap<String, ObjectNode> all) throws IOException {
    var in = Files.createDirectories(folder.resolve(kind));
    for (var old : list(in)) {
      Files.delete(old);
    }
    for (var one : all.entrySet()) {
      write(in.resolve(Service.encoded(one.getKey()) + END), one.getValue());
    }
  }

  private static void write(Path file, JsonNode node) throws IOException {
    Files.writeString(
        file, PRETTY.writerWithDefaultPrettyPrinter().writeValueAsString(sorted(node)) + "\n");
  }

  /** So that files can be compared line by line. */
  private static Object sorted(JsonNode node) {
    return PRETTY.treeToValue(node, Object.class);
  }

  /**
   * What all files say.
   *
   * @param kinds by folder and name
   * @param limits by name; empty where there is no file of them
   */
  record Wanted(Map<String, SortedMap<String, ObjectNode>> kinds, ObjectNode limits) {
    SortedMap<String, ObjectNode> of(ConfigKind kind) {
      return kinds.get(kind.folder());
    }
  }

  /**
   * Reads all files.
   *
   * @throws Failure with all that is amiss in any of them
   */
  Wanted readAll(List<ConfigKind> kinds) throws IOException {
    var problems = new Problems();
    for (var stray : strays(kinds)) {
      problems.add(stray(stray, kinds));
    }
    var all = new TreeMap<String, SortedMap<String, ObjectNode>>();
    for (var kind : kinds) {
      var byName = new TreeMap<String, ObjectNode>();
      for (var file : list(folder.resolve(kind.folder()))) {
        problems.gather(() -> byName.put(name(file), read(kind, file)));
      }
      all.put(kind.folder(), byName);
    }
    var limits = Service.JSON.createObjectNode();
    if (Files.exists(file(LIMITS))) {
      problems.gather(() -> limits.setAll(read(file(LIMITS))));
    }
    for (var one : limits.properties()) {
      if (!one.getValue().isNumber()) {
        problems.add(noNumber(one.getKey(), one.getValue()));
      }
    }
    problems.mustBeNone();
    return new Wanted(all, limits);
  }

  /** Folders of files that are of no kind: a misspelt one must not be passed over. */
  private List<Path> strays(List<ConfigKind> kinds) throws IOException {
    var known = kinds.stream().map(ConfigKind::folder).toList();
    var strays = new ArrayList<Path>();
    try (var all = Files.list(folder)) {
      for (var one : all.filter(Files::isDirectory).sorted().toList()) {
        if (!known.contains(one.getFileName().toString()) && list(one).iterator().hasNext()) {
          strays.add(one);
        }
      }
    }
    return strays;
  }

  private static Failure stray(Path folder, List<ConfigKind> kinds) {
    return new Failure(
        "Nothing is set up by files in %s.".formatted(folder),
        "Its name is that of no kind.",
        "Rename it to one of %s, or take it out."
            .formatted(
                kinds.stream().map(ConfigKind::folder).sorted().collect(Collectors.joining(", "))));
  }

  private static String name(Path file) {
    var name = file.getFileName().toString();
    return URLDecoder.decode(
        name.substring(0, name.length() - END.length()), StandardCharsets.UTF_8);
  }

  private static ObjectNode read(ConfigKind kind, Path file) throws IOException {
    var node = read(file);
    mustBeKnown(kind, file, node);
    return node;
  }

  private Failure noNumber(String limit, JsonNode value) {
    return new Failure(
        "%s: %s is %s.".formatted(file(LIMITS), limit, value),
        "A limit is a number; a share of a quarter is 0.25.",
        "Correct it there.");
  }

  private static void mustBeKnown(ConfigKind kind, Path file, ObjectNode node) {
    var unknown = new TreeSet<>(node.propertyNames());
    unknown.removeAll(kind.fields());
    if (!unknown.isEmpty()) {
      throw new Failure(
          "%s says %s.".formatted(file, String.join(", ", unknown)),
          "Nothing of that name can be set in %s.".formatted(kind.folder()),
          "Take it out, or correct it to one of %s."
              .formatted(kind.fields().stream().sorted().collect(Collectors.joining(", "))));
    }
  }

  private static ObjectNode read(Path file) throws IOException {
    try {
      return (ObjectNode) Service.JSON.readTree(Files.readString(file));
    } catch (JacksonException e) {
      var at = e.getLocation();
      throw new Failure(
          "%s, line %d, column %d: this is no JSON."
              .formatted(file, at.getLineNr(), at.getColumnNr()),
          // Where what is not closed began it does not know, and says so at length.
          e.getOriginalMessage().replaceFirst(" \\(start marker at .*", ""),
          "Correct it there.");
    } catch (ClassCastException _) {
      throw new Failure(
          file + " holds no JSON object.", "Fields and their values are expected.", "Correct it.");
    }
  }

  Path file(String name) {
    return folder.resolve(name + END);
  }

  Path file(ConfigKind kind, String name) {
    return folder.resolve(kind.folder()).resolve(Service.encoded(name) + END);
  }

  private static Iterable<Path> list(Path in) throws IOException {
    if (Files.notExists(in)) {
      return List.of();
    }
    try (var files = Files.list(in)) {
      return files.filter(file -> file.toString().endsWith(END)).sorted().toList();
    }
  }
}
