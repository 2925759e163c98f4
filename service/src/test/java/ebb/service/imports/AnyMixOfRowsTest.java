package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.service.InProcess;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.dhatim.fastexcel.Workbook;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Files of any mix of rows, in any order and format, are read as a reader would read them who keeps
 * everything in memory and looks at one row after the other.
 */
public class AnyMixOfRowsTest {
  private static final List<String> HEADINGS =
      List.of("No", "Given", "Family", "Title", "Start", "Note", "Left");
  private static final int PEOPLE = 120;
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Map<String, Map<String, String>> known = new TreeMap<>();
  private Path folder;
  private int files;
  private int made;

  /** A row as it is written, by heading. */
  private record Line(Map<String, String> cells) {
    String key() {
      return cells.get("No");
    }

    boolean isGone() {
      return !cells.get("Left").isEmpty();
    }
  }

  /** What a file was found to say: of each key in it verdict and values, and who has gone. */
  private record Said(Map<String, List<String>> rows, Set<String> missing, long unchanged) {}

  @BeforeClass
  void takeInTheFirstFile() throws IOException {
    folder = Files.createDirectories(Path.of("target/any-mix"));
    var random = Chance.random(1);
    var lines = new ArrayList<Line>();
    for (int i = 0; i < PEOPLE; i++) {
      lines.add(somebodyNew(random));
    }
    var file = written("csv", StandardCharsets.UTF_8, lines, random);
    var read = InProcess.client().json("imports", "add", file.toString());
    var mapped =
        InProcess.client()
            .json(
                "imports",
                "map",
                read.path("id").asString(),
                "--source=mixed",
                "--key=No",
                "--column=Given=name.givenName",
                "--column=Family=name.familyName",
                "--column=Title=title",
                "--column=Start=startDate",
                "--column=No=",
                "--column=Note=",
                "--column=Left=gone");
    InProcess.release(mapped.path("changeSet").asString());
    lines.forEach(line -> known.put(line.key(), line.cells()));
  }

  @DataProvider
  Object[][] formats() {
    return new Object[][] {
      {"csv", StandardCharsets.UTF_8, 2L},
      {"csv", StandardCharsets.UTF_16LE, 3L},
      {"csv", Charset.forName("windows-1252"), 4L},
      {"jsonl", StandardCharsets.UTF_8, 5L},
      {"xlsx", StandardCharsets.UTF_8, 6L},
    };
  }

  @Test(dataProvider = "formats")
  public void eachRowIsReadAsIfItWereTheOnlyOne(String format, Charset charset, long seed)
      throws IOException {
    var random = Chance.random(seed);
    int compared = 0;
    for (int i = 0; i < 8; i++) {
      var lines = anyMix(random);
      var isComplete = random.nextInt(3) == 0;
      var file = written(format, charset, lines, random);
      var expected = naively(lines, isComplete);
      assertThat(said(file, isComplete))
          .as("file %s of seed %d, %s", file.getFileName(), seed, isComplete ? "complete" : "some")
          .isEqualTo(expected);
      compared += expected.rows().size() + expected.missing().size();
    }
    assertThat(compared).isGreaterThan(200);
  }

  private List<Line> anyMix(Random random) {
    var lines = new ArrayList<Line>();
    var keys = new ArrayList<>(known.keySet());
    Collections.shuffle(keys, random);
    for (var key : keys.subList(0, random.nextInt(keys.size()))) {
      lines.add(
          switch (random.nextInt(6)) {
            case 0, 1 -> with(key, "Title", "Mate " + made++);
            case 2 -> with(key, "Left", "yes");
            case 3 -> with(key, "Start", "some day");
            case 4 -> with(key, "Note", "On\ntwo \"lines\", with; marks");
            default -> new Line(known.get(key));
          });
    }
    for (int i = random.nextInt(12); i > 0; i--) {
      lines.add(
          switch (random.nextInt(3)) {
            case 0 -> goneAndNeverKnown(random);
            default -> somebodyNew(random);
          });
    }
    if (lines.isEmpty()) {
      lines.add(somebodyNew(random));
    }
    var present = lines.stream().filter(line -> !line.isGone()).toList();
    for (int i = random.nextInt(4); i > 0 && !present.isEmpty(); i--) {
      var line = present.get(random.nextInt(present.size()));
      lines.add(
          switch (random.nextInt(3)) {
            case 0 -> line;
            case 1 -> saying(line, "Title", "Another " + made++);
            default -> saying(somebodyNew(random), "No", line.key().toLowerCase(Locale.ROOT));
          });
    }
    Collections.shuffle(lines, random);
    return lines;
  }

  private Line with(String key, String heading, String text) {
    return saying(new Line(known.get(key)), heading, text);
  }

  private static Line saying(Line line, String heading, String text) {
    var cells = new LinkedHashMap<>(line.cells());
    cells.put(heading, text);
    return new Line(cells);
  }

  private Line somebodyNew(Random random) {
    var cells = new LinkedHashMap<String, String>();
    cells.put("No", "M%05d".formatted(made++));
    cells.put("Given", word(random));
    cells.put("Family", word(random));
    cells.put("Title", random.nextInt(4) == 0 ? "" : "Mate " + made++);
    cells.put("Start", "2026-01-%02d".formatted(1 + random.nextInt(28)));
    cells.put("Note", "");
    cells.put("Left", "");
    return new Line(cells);
  }

  private Line goneAndNeverKnown(Random random) {
    var cells = new LinkedHashMap<>(somebodyNew(random).cells());
    cells.put("Left", "yes");
    return new Line(cells);
  }

  /** Long enough that no two are alike. */
  private static String word(Random random) {
    var word = new StringBuilder();
    word.append((char) ('A' + random.nextInt(26)));
    for (int i = 0; i < 11; i++) {
      word.append((char) ('a' + random.nextInt(26)));
    }
    return word.append('é').toString();
  }

  private Said naively(List<Line> lines, boolean isComplete) {
    var rows = new TreeMap<String, List<String>>();
    var met = new TreeSet<String>();
    var missing = new TreeSet<String>(isComplete ? known.keySet() : Set.of());
    lines.stream().filter(Line::isGone).map(Line::key).forEach(missing::add);
    missing.retainAll(known.keySet());
    var unclear = unclear(lines);
    long unchanged = 0;
    for (var line : lines) {
      if (line.isGone()) {
        continue;
      }
      missing.remove(line.key());
      var found = verdict(line, !met.add(line.key()) || unclear.contains(line.key()));
      if (found.equals("unchanged")) {
        unchanged++;
      } else {
        rows.computeIfAbsent(line.key(), _ -> new ArrayList<>()).add(found);
      }
    }
    rows.values().forEach(Collections::sort);
    return new Said(rows, missing, unchanged);
  }

  /** Keys of rows that say different things, and keys that differ in capitals alone. */
  private static Set<String> unclear(List<Line> lines) {
    var said = new TreeMap<String, Set<List<String>>>();
    var alike = new TreeMap<String, Set<String>>();
    for (var line : lines) {
      if (!line.isGone()) {
        var values =
            List.of("Given", "Family", "Title", "Start").stream().map(line.cells()::get).toList();
        said.computeIfAbsent(line.key(), _ -> new HashSet<>()).add(values);
        alike
            .computeIfAbsent(line.key().toLowerCase(Locale.ROOT), _ -> new TreeSet<>())
            .add(line.key());
      }
    }
    var unclear = new TreeSet<String>();
    said.forEach(
        (key, all) -> {
          if (all.size() > 1) {
            unclear.add(key);
          }
        });
    alike.values().stream().filter(keys -> keys.size() > 1).forEach(unclear::addAll);
    return unclear;
  }

  private String verdict(Line line, boolean isSecond) {
    if (isSecond || line.cells().get("Start").equals("some day")) {
      return "refused";
    }
    var before = known.get(line.key());
    var title = line.cells().get("Title");
    if (before == null) {
      return "new " + line.cells().get("Family") + " " + title;
    }
    return before.get("Title").equals(title)
        ? "unchanged"
        : "changed title from " + before.get("Title") + " to " + title;
  }

  private Said said(Path file, boolean isComplete) {
    var client = InProcess.client();
    var add = new ArrayList<>(List.of("imports", "add", file.toString(), "--source=mixed"));
    if (isComplete) {
      add.add("--complete");
    }
    var read = client.json(add.toArray(String[]::new));
    var id = read.path("id").asString();
    var rows = new TreeMap<String, List<String>>();
    client
        .json("imports", "rows", id, "--limit=1000")
        .path("items")
        .forEach(
            row ->
                rows.computeIfAbsent(row.path("key").asString(), _ -> new ArrayList<>())
                    .add(told(row)));
    rows.values().forEach(Collections::sort);
    var missing = new TreeSet<String>();
    client
        .json("imports", "missing", id, "--limit=1000")
        .path("items")
        .forEach(one -> missing.add(one.path("key").asString()));
    return new Said(rows, missing, read.path("counts").path("unchanged").asLong());
  }

  private static String told(JsonNode row) {
    var values = row.path("values");
    return switch (row.path("verdict").asString()) {
      case "new" ->
          "new %s %s"
              .formatted(
                  values.path("name.familyName").asString(), values.path("title").asString(""));
      case "changed" ->
          row.path("edits")
              .valueStream()
              .map(
                  edit ->
                      "changed %s from %s to %s"
                          .formatted(
                              edit.path("attribute").asString(),
                              edit.path("before").asString(""),
                              edit.path("after").asString("")))
              .reduce("", String::concat);
      case String verdict -> verdict;
    };
  }

  private Path written(String format, Charset charset, List<Line> lines, Random random)
      throws IOException {
    var file = folder.resolve("mix-%d.%s".formatted(++files, format));
    switch (format) {
      case "csv" -> Files.writeString(file, csv(lines, random), charset);
      case "jsonl" -> Files.writeString(file, json(lines), charset);
      default -> workbook(file, lines);
    }
    return file;
  }

  private static String csv(List<Line> lines, Random random) {
    var text = new StringBuilder(String.join(",", HEADINGS)).append('\n');
    for (var line : lines) {
      text.append(
              line.cells().values().stream()
                  .map(cell -> '"' + cell.replace("\"", "\"\"") + '"')
                  .reduce((one, other) -> one + "," + other)
                  .orElseThrow())
          .append(random.nextInt(12) == 0 ? "\n\n" : "\n");
    }
    return text.toString();
  }

  private static String json(List<Line> lines) {
    var text = new StringBuilder();
    lines.forEach(line -> text.append(JSON.writeValueAsString(line.cells())).append('\n'));
    return text.toString();
  }

  private static void workbook(Path file, List<Line> lines) throws IOException {
    try (var out = Files.newOutputStream(file);
        var workbook = new Workbook(out, "Ebb", "1.0")) {
      var sheet = workbook.newWorksheet("People");
      for (int column = 0; column < HEADINGS.size(); column++) {
        sheet.value(0, column, HEADINGS.get(column));
        for (int row = 0; row < lines.size(); row++) {
          sheet.value(row + 1, column, lines.get(row).cells().get(HEADINGS.get(column)));
        }
      }
    }
  }
}
