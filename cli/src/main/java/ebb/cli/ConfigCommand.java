package ebb.cli;

import ebb.api.ChangeSetView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

@Command(
    addMethodSubcommands = false,
    name = "config",
    mixinStandardHelpOptions = true,
    description =
        "How Ebb is set up, as files: applications without their secrets, sources, feeds, rules,"
            + " attributes, limits.",
    footerHeading = "%nExample:%n",
    footer = {
      "  ebb config export ebb-config",
      "  ebb config check ebb-config      what loading it would change",
      "  ebb config load ebb-config       rules are shown as a change set, and wait"
    })
final class ConfigCommand {
  private static final String LIMITS = "/api/v1/limits";

  @ParentCommand private Main main;

  /** One difference between a file and what is set. */
  private record Difference(String kind, String name, String what) {}

  @Command(mixinStandardHelpOptions = true, description = "Write how Ebb is set up into a folder.")
  void export(@Parameters(paramLabel = "FOLDER") Path folder) throws IOException {
    var files = new ConfigFiles(folder);
    files.begin();
    var written = 0;
    for (var kind : kinds()) {
      var all = set(kind);
      files.write(kind.folder(), all);
      written += all.size();
    }
    Files.writeString(files.file(ConfigFiles.LIMITS), limits().toPrettyString() + "\n");
    main.output()
        .line(
            "%d files in %s. No secret is in them. What loading them would change: ebb config check %s",
            written + 2, folder, folder);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What loading a folder would change. Nothing is changed.")
  void check(@Parameters(paramLabel = "FOLDER") Path folder) throws IOException {
    var files = new ConfigFiles(folder);
    files.mustBeReadable();
    var wanted = files.readAll(kinds());
    var differences = new ArrayList<Difference>();
    for (var kind : kinds()) {
      differences.addAll(differences(kind, set(kind), wanted.of(kind)));
    }
    differences.addAll(limitDifferences(wanted.limits()));
    differences.forEach(
        one -> main.output().line("%-13s %-24s %s", one.kind(), one.name(), one.what()));
    main.output()
        .line(
            differences.isEmpty()
                ? "All is set up as the files say."
                : "Nothing was changed. To load it: ebb config load " + folder);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Set Ebb up as a folder says. Rules are shown as one change set, and come into force"
              + " with its release; the rest is for what comes later, and in force at once. What is"
              + " in no file stays.")
  void load(
      @Parameters(paramLabel = "FOLDER") Path folder,
      @Option(names = "--release", description = "release the rules at once") boolean release)
      throws IOException {
    var files = new ConfigFiles(folder);
    files.mustBeReadable();
    // All are read before the first is written: a file that is amiss must not be met halfway.
    var wanted = files.readAll(kinds());
    var refused = new Problems();
    var done = 0;
    for (var kind : ConfigKind.SETTINGS) {
      done += load(kind, wanted.of(kind), files, refused);
    }
    done += loadLimits(wanted.limits(), files, refused);
    var rules = changedRules(wanted.of(ConfigKind.RULES));
    if (!refused.isEmpty() && !rules.isEmpty()) {
      main.output().line("The rules were left out: correct what was refused, and load again.");
    }
    refused.mustBeNone();
    if (done == 0 && rules.isEmpty()) {
      main.output().line("All is set up as the files say.");
    } else if (!rules.isEmpty()) {
      var edit = Service.JSON.createObjectNode();
      var all = edit.putArray("rules");
      rules.forEach((name, rule) -> all.add(rule.put("name", name)));
      new Sets(main)
          .shown(main.service().post(ConfigKind.RULES.path(), edit, ChangeSetView.class), release);
    }
  }

  private static List<ConfigKind> kinds() {
    var all = new ArrayList<>(ConfigKind.SETTINGS);
    all.add(ConfigKind.RULES);
    return all;
  }

  /** What is set now, by name, with those fields that files have. */
  private SortedMap<String, ObjectNode> set(ConfigKind kind) {
    var all = new TreeMap<String, ObjectNode>();
    for (var item : main.service().list(kind.path(), JsonNode.class, 10_000).items()) {
      if (isSetUp(kind, item)) {
        all.put(item.path(kind.key()).asString(), ((ObjectNode) item).retain(kind.fields()));
      }
    }
    return all;
  }

  /** Of the attributes everybody has, those that were set otherwise. */
  private static boolean isSetUp(ConfigKind kind, JsonNode item) {
    return !kind.folder().equals("attributes")
        || item.path("own").asBoolean()
        || item.path("version").asLong() > 0;
  }

  private static List<Difference> differences(
      ConfigKind kind, SortedMap<String, ObjectNode> set, SortedMap<String, ObjectNode> wanted) {
    var all = new ArrayList<Difference>();
    var names = new TreeSet<>(set.keySet());
    names.addAll(wanted.keySet());
    for (var name : names) {
      if (!wanted.containsKey(name)) {
        all.add(new Difference(kind.folder(), name, "is in no file; it stays"));
      } else if (!set.containsKey(name)) {
        all.add(new Difference(kind.folder(), name, "is new"));
      } else {
        fields(kind, set.get(name), wanted.get(name))
            .forEach(what -> all.add(new Difference(kind.folder(), name, what)));
      }
    }
    return all;
  }

  private static List<String> fields(ConfigKind kind, ObjectNode set, ObjectNode wanted) {
    return kind.fields().stream()
        .sorted()
        .filter(field -> !isSame(set.get(field), wanted.get(field)))
        .map(
            field -> "%s: %s -> %s".formatted(field, text(set.get(field)), text(wanted.get(field))))
        .toList();
  }

  /** What is left out is as good as empty. */
  private static boolean isSame(JsonNode one, JsonNode other) {
    return isNothing(one) ? isNothing(other) : one.equals(other);
  }

  private static boolean isNothing(JsonNode node) {
    return node == null
        || node.isNull()
        || (node.isContainer() && node.isEmpty())
        || (node.isBoolean() && !node.asBoolean());
  }

  private static String text(JsonNode node) {
    return node == null ? "nothing" : node.toString();
  }

  private int load(
      ConfigKind kind, SortedMap<String, ObjectNode> wanted, ConfigFiles files, Problems refused)
      throws IOException {
    var set = set(kind);
    var done = 0;
    for (var one : wanted.entrySet()) {
      var before = set.get(one.getKey());
      if (before == null || !fields(kind, before, one.getValue()).isEmpty()) {
        refused.gather(
            files.file(kind, one.getKey()),
            () -> load(kind, one.getKey(), one.getValue(), before == null));
        done++;
      }
    }
    return done;
  }

  private void load(ConfigKind kind, String name, ObjectNode wanted, boolean isNew) {
    main.service().write("PUT", kind.path() + "/" + Service.encoded(name), wanted, JsonNode.class);
    main.output().line("%s %s is as its file says.", kind.folder(), name);
    if (isNew && kind.follows() != null) {
      main.output().line("  " + kind.follows().formatted(name));
    }
  }

  private SortedMap<String, ObjectNode> changedRules(SortedMap<String, ObjectNode> wanted) {
    var set = set(ConfigKind.RULES);
    var changed = new TreeMap<>(wanted);
    changed
        .entrySet()
        .removeIf(
            one ->
                set.containsKey(one.getKey())
                    && fields(ConfigKind.RULES, set.get(one.getKey()), one.getValue()).isEmpty());
    return changed;
  }

  // Limits are numbers, and stand in one file
  // ------------------------------------------------------

  /** Those that are not what they usually are. */
  private ObjectNode limits() {
    var all = Service.JSON.createObjectNode();
    for (var limit : main.service().list(LIMITS, JsonNode.class, 1_000).items()) {
      var name = limit.path("name").asString();
      if (limit.path("value").asDouble() != limit.path("usual").asDouble()) {
        all.put(name, limit.path("value").asDouble());
      }
      for (var exception : limit.path("exceptions")) {
        all.put(
            name + " of " + exception.path("name").asString(), exception.path("value").asDouble());
      }
    }
    return all;
  }

  private List<Difference> limitDifferences(ObjectNode wanted) {
    var set = limits();
    return wanted.propertyNames().stream()
        .filter(name -> !isSameNumber(set.get(name), wanted.get(name)))
        .map(
            name ->
                new Difference(
                    "limits",
                    name,
                    "%s -> %s"
                        .formatted(set.has(name) ? set.get(name) : "usual", wanted.get(name))))
        .toList();
  }

  private static boolean isSameNumber(JsonNode one, JsonNode other) {
    return one != null && one.asDouble() == other.asDouble();
  }

  private int loadLimits(ObjectNode wanted, ConfigFiles files, Problems refused)
      throws IOException {
    var differing = limitDifferences(wanted);
    for (var one : differing) {
      refused.gather(
          files.file(ConfigFiles.LIMITS), () -> loadLimit(one.name(), wanted.get(one.name())));
    }
    return differing.size();
  }

  private void loadLimit(String name, JsonNode value) {
    var parts = name.split(" of ", 2);
    var edit =
        Service.JSON
            .createObjectNode()
            .put("value", value.asDouble())
            .put("of", parts.length > 1 ? parts[1] : null)
            .put("reason", "loaded from files");
    main.service().write("PUT", LIMITS + "/" + Service.encoded(parts[0]), edit, JsonNode.class);
    main.output().line("limit %s is as its file says.", name);
  }
}
