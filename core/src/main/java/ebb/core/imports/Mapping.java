package ebb.core.imports;

import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Which column of a source fills which attribute.
 *
 * @param key heading of the column that holds the stable key of a row
 * @param columns heading to attribute
 * @param ignored headings that are known and not used
 * @param dateFormat a pattern as in "dd.MM.uuuu"; every date of the source is written so
 */
public record Mapping(
    String key, SortedMap<String, String> columns, SortedSet<String> ignored, String dateFormat) {
  public Mapping {
    columns = new TreeMap<>(columns == null ? Map.of() : columns);
    ignored = new TreeSet<>(ignored == null ? List.of() : ignored);
    dateFormat = dateFormat == null ? "uuuu-MM-dd" : dateFormat;
  }

  /**
   * Where each mapped column stands in a file.
   *
   * @throws Refusal naming every heading that is missing, doubled or unknown
   */
  public Layout layout(String file, List<String> headings) {
    var problems = new ArrayList<Problem>();
    wrongSeparator(file, headings)
        .ifPresentOrElse(problems::add, () -> headingsAmiss(file, headings, problems));
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    var positions = new HashMap<String, Integer>();
    for (int i = 0; i < headings.size(); i++) {
      positions.put(headings.get(i), i);
    }
    return new Layout(file, this, positions, headings.size());
  }

  /** All problems of the mapping itself; empty if it can be used. */
  public List<Problem> problems() {
    var problems = new ArrayList<Problem>();
    if (key == null || key.isBlank()) {
      problems.add(
          new Problem(
              "mapping-without-key",
              "The mapping names no key column.",
              "Without a stable key a rename looks like one who left and one who joined.",
              "Set key to the heading of the staff number or the like.",
              Where.field("key")));
    }
    columns.forEach(
        (heading, attribute) -> {
          if (!Attributes.known().contains(attribute)) {
            problems.add(
                new Problem(
                    "attribute-unknown",
                    "%s is mapped to %s, which is no attribute.".formatted(heading, attribute),
                    "Nothing could be done with its values.",
                    "Use one of " + new TreeSet<>(Attributes.known()) + ".",
                    Where.field(heading)));
          }
        });
    for (var compulsory : new TreeSet<>(Attributes.COMPULSORY)) {
      if (!columns.containsValue(compulsory)) {
        problems.add(
            new Problem(
                "attribute-not-mapped",
                "No column fills %s.".formatted(compulsory),
                "Nobody can be created without it.",
                "Map a column to it.",
                Where.field(compulsory)));
      }
    }
    return problems;
  }

  private Optional<Problem> wrongSeparator(String file, List<String> headings) {
    if (headings.size() == 1
        && !headings.getFirst().equals(key)
        && headings.getFirst().matches(".*[;\\t|].*")) {
      return Optional.of(
          new Problem(
              "wrong-separator",
              "The heading is one long column: %s".formatted(shortened(headings.getFirst())),
              "Columns are expected to be separated by commas; this file seems to use another sign.",
              "Save it as CSV with commas.",
              Where.line(file, 1)));
    }
    return Optional.empty();
  }

  private void headingsAmiss(String file, List<String> headings, List<Problem> problems) {
    var seen = new HashSet<String>();
    for (var heading : headings) {
      if (!seen.add(heading)) {
        problems.add(
            new Problem(
                "heading-doubled",
                "The heading %s stands twice.".formatted(heading),
                "It cannot be told which of the columns is meant.",
                "Rename or remove one of them.",
                Where.cell(file, 1, heading)));
      } else if (!heading.equals(key)
          && !columns.containsKey(heading)
          && !ignored.contains(heading)) {
        problems.add(
            new Problem(
                "column-unknown",
                "The column %s is not in the mapping.".formatted(heading),
                "The source may have changed, or this is another file.",
                "Map it to an attribute, or list it as ignored.",
                Where.cell(file, 1, heading)));
      }
    }
    var expected = new TreeSet<>(columns.keySet());
    expected.add(key);
    expected.stream()
        .filter(heading -> !seen.contains(heading))
        .map(
            heading ->
                new Problem(
                    "heading-missing",
                    "The heading %s is missing.".formatted(heading),
                    "The mapping expects it; without it every value would seem to have been taken away.",
                    "Add the column, or take it out of the mapping.",
                    Where.cell(file, 1, heading)))
        .forEach(problems::add);
  }

  private static String shortened(String text) {
    return text.length() <= 60 ? text : text.substring(0, 60) + "…";
  }
}
