package ebb.core.imports;

import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
 * @param dateFormat a pattern as in "d.M.uuuu"; dates of the source are written so, or as ISO 8601
 *     has them
 * @param computed attribute to an expression over row, the texts of a row by their headings
 * @param tables attribute to what the source's codes mean
 */
public record Mapping(
    String key,
    SortedMap<String, String> columns,
    SortedSet<String> ignored,
    String dateFormat,
    SortedMap<String, String> computed,
    SortedMap<String, SortedMap<String, String>> tables) {
  /**
   * What a column fills that holds the key a person had before, where the source gives out new
   * ones. It is no attribute: who is found by it has the new key from then on.
   */
  public static final String FORMER_KEY = "formerKey";

  /**
   * What a column fills that says, yes or no, that somebody has gone: the row of a person gone says
   * nothing else, and they are listed as missing. It is no attribute.
   */
  public static final String GONE = "gone";

  private static final Set<String> NO_ATTRIBUTES = Set.of(FORMER_KEY, GONE);

  /** Headings that Ebb itself writes beside a source's own, and does not read again. */
  public static final String OWN_HEADINGS = "Ebb: ";

  public Mapping {
    columns = new TreeMap<>(columns == null ? Map.of() : columns);
    ignored = new TreeSet<>(ignored == null ? List.of() : ignored);
    dateFormat = dateFormat == null ? "uuuu-MM-dd" : dateFormat;
    computed = new TreeMap<>(computed == null ? Map.of() : computed);
    tables = new TreeMap<>(tables == null ? Map.of() : tables);
  }

  /** A mapping that only takes columns as they are. */
  public Mapping(
      String key, SortedMap<String, String> columns, SortedSet<String> ignored, String dateFormat) {
    this(key, columns, ignored, dateFormat, null, null);
  }

  /** Whether what a column fills is an attribute of people. */
  static boolean isAttribute(String filled) {
    return !NO_ATTRIBUTES.contains(filled);
  }

  /** All attributes this mapping fills. */
  public SortedSet<String> attributes() {
    var attributes = new TreeSet<>(columns.values());
    attributes.addAll(computed.keySet());
    attributes.removeAll(NO_ATTRIBUTES);
    return attributes;
  }

  /** This mapping with what another code means. */
  public Mapping meaning(String attribute, String code, String value) {
    var next = new TreeMap<>(tables);
    var table = new TreeMap<>(tables.getOrDefault(attribute, new TreeMap<>()));
    table.put(code, value);
    next.put(attribute, table);
    return new Mapping(key, columns, ignored, dateFormat, computed, next);
  }

  /** How far the headings of a file are those of this mapping. */
  public Fit fit(List<String> headings) {
    var expected = new TreeSet<>(columns.keySet());
    expected.add(key);
    long found = expected.stream().filter(headings::contains).count();
    if (!headings.contains(key) || found * 2 < expected.size()) {
      return Fit.ANOTHER_FILE;
    }
    var isWhole =
        found == expected.size() && headings.stream().allMatch(this::isKnown) && isEach(headings);
    return isWhole ? Fit.WHOLE : Fit.COLUMNS_CHANGED;
  }

  public enum Fit {
    WHOLE,
    /** The key and most columns are there: the source itself was changed. */
    COLUMNS_CHANGED,
    ANOTHER_FILE
  }

  private boolean isKnown(String heading) {
    return heading.equals(key)
        || columns.containsKey(heading)
        || ignored.contains(heading)
        || heading.startsWith(OWN_HEADINGS);
  }

  private static boolean isEach(List<String> headings) {
    return new HashSet<>(headings).size() == headings.size();
  }

  /**
   * Where each mapped column stands in a file.
   *
   * @throws Refusal naming every heading that is missing, doubled or unknown
   */
  public Layout layout(
      String file, List<String> headings, Catalogue catalogue, Expressions expressions) {
    var problems = new ArrayList<Problem>();
    headingsAmiss(file, headings, problems);
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    var positions = new HashMap<String, Integer>();
    for (int i = 0; i < headings.size(); i++) {
      positions.put(headings.get(i), i);
    }
    return new Layout(file, this, positions, headings, catalogue, expressions);
  }

  /** All problems of the mapping itself; empty if it can be used. */
  public List<Problem> problems(Catalogue catalogue, Expressions expressions) {
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
        (heading, attribute) -> unknown(catalogue, heading, attribute).ifPresent(problems::add));
    filledTwice().forEach(problems::add);
    computed.forEach(
        (attribute, expression) -> {
          unknown(catalogue, attribute, attribute).ifPresent(problems::add);
          expressions.problemOfRow(expression, Where.field(attribute)).ifPresent(problems::add);
        });
    if (!isDateFormat()) {
      problems.add(
          new Problem(
              "date-format-invalid",
              "%s is no way to write a date.".formatted(dateFormat),
              "It needs a day d, a month M and a year u.",
              "Write it as in d.M.uuuu or M/d/uuuu.",
              Where.field("dateFormat")));
    }
    catalogue.required().stream()
        .filter(required -> !attributes().contains(required))
        .map(Mapping::notMapped)
        .forEach(problems::add);
    return problems;
  }

  private Optional<Problem> unknown(Catalogue catalogue, String heading, String attribute) {
    return NO_ATTRIBUTES.contains(attribute) || catalogue.find(attribute).isPresent()
        ? Optional.empty()
        : Optional.of(
            new Problem(
                "attribute-unknown",
                "%s is mapped to %s, which is no attribute.".formatted(heading, attribute),
                "Nothing could be done with its values.",
                "Use one of " + catalogue.names() + ", or define it first.",
                Where.field(heading)));
  }

  private List<Problem> filledTwice() {
    var seen = new HashMap<String, String>();
    var problems = new ArrayList<Problem>();
    columns.forEach(
        (heading, attribute) -> {
          var other = seen.putIfAbsent(attribute, heading);
          if (other != null || computed.containsKey(attribute)) {
            problems.add(
                new Problem(
                    "attribute-filled-twice",
                    "%s is filled by %s and by %s."
                        .formatted(attribute, heading, other == null ? "an expression" : other),
                    "One of the two values would be lost.",
                    "Leave one of them out.",
                    Where.field(heading)));
          }
        });
    return problems;
  }

  private boolean isDateFormat() {
    try {
      DateTimeFormatter.ofPattern(dateFormat);
      return dateFormat.contains("d") && dateFormat.contains("M") && dateFormat.contains("u");
    } catch (IllegalArgumentException _) {
      return false;
    }
  }

  private static Problem notMapped(String required) {
    return new Problem(
        "attribute-not-mapped",
        "No column fills %s.".formatted(required),
        "Nobody can be created without it.",
        "Map a column to it.",
        Where.field(required));
  }

  /**
   * @throws Refusal naming every heading that stands twice: no mapping could tell them apart
   */
  public static void mustBeDistinct(String file, List<String> headings) {
    var problems = doubled(file, headings);
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
  }

  private static List<Problem> doubled(String file, List<String> headings) {
    var problems = new ArrayList<Problem>();
    for (int i = 0; i < headings.size(); i++) {
      if (headings.get(i).isEmpty()) {
        problems.add(
            new Problem(
                "heading-empty",
                "Column %d has no heading.".formatted(i + 1),
                "Nobody can say what it means.",
                "Give it one, or take the column out.",
                Where.line(file, 1)));
      }
    }
    var seen = new HashSet<String>();
    headings.stream()
        .filter(heading -> !heading.isEmpty())
        .filter(heading -> !seen.add(heading))
        .distinct()
        .map(
            heading ->
                new Problem(
                    "heading-doubled",
                    "The heading %s stands twice.".formatted(heading),
                    "It cannot be told which of the columns is meant.",
                    "Rename or remove one of them.",
                    Where.cell(file, 1, heading)))
        .forEach(problems::add);
    return problems;
  }

  private void headingsAmiss(String file, List<String> headings, List<Problem> problems) {
    problems.addAll(doubled(file, headings));
    var seen = new HashSet<String>();
    for (var heading : headings) {
      if (seen.add(heading) && !heading.isEmpty() && !isKnown(heading)) {
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
}
