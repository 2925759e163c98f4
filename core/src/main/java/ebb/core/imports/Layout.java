package ebb.core.imports;

import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedMap;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** A mapping bound to the headings of one file: checks its rows, each with all its problems. */
public final class Layout {
  private static final int LONGEST_KEY = 200;
  private static final int MOST_ZEROS = 6;

  private final String file;
  private final Mapping mapping;
  private final Map<String, Integer> positions;
  private final List<String> headings;
  private final List<String> required;
  private final ValueCheck check;
  private final Expressions expressions;
  private final int[] printed;
  private final Integer formerKey;
  private final Integer gone;
  private final Map<String, String> fallbacks;

  Layout(
      String file,
      Mapping mapping,
      Map<String, Integer> positions,
      List<String> headings,
      Catalogue catalogue,
      Expressions expressions) {
    this.file = file;
    this.mapping = mapping;
    this.positions = positions;
    this.headings = headings;
    this.required = catalogue.required();
    this.check = new ValueCheck(catalogue, mapping.dateFormat());
    this.expressions = expressions;
    this.fallbacks =
        catalogue.all().stream()
            .filter(attribute -> attribute.fallback() != null)
            .filter(attribute -> mapping.attributes().contains(attribute.name()))
            .collect(Collectors.toMap(Attribute::name, Attribute::fallback));
    this.formerKey = positions.get(heading(Mapping.FORMER_KEY));
    this.gone = positions.get(heading(Mapping.GONE));
    this.printed = printed(mapping, positions, headings);
  }

  /** An expression may read any column; otherwise those not mapped make no odds. */
  private static int[] printed(
      Mapping mapping, Map<String, Integer> positions, List<String> headings) {
    return mapping.computed().isEmpty()
        ? mapping.columns().entrySet().stream()
            .filter(column -> Mapping.isAttribute(column.getValue()))
            .mapToInt(column -> positions.get(column.getKey()))
            .toArray()
        : IntStream.range(0, headings.size()).toArray();
  }

  public List<String> headings() {
    return headings;
  }

  /** What tells whether a row says the same as last time: its mapped cells, in their order. */
  public Print print(Row row, Print.Press press, long seed) {
    press.begin(seed);
    var cells = row.cells();
    int width = cells.size();
    for (int position : printed) {
      press.put(position < width ? cells.get(position) : "");
    }
    return press.end();
  }

  /** The texts of a row by their headings; cells beyond the headings are left out. */
  public SequencedMap<String, String> texts(Row row) {
    var texts = new LinkedHashMap<String, String>();
    for (int i = 0; i < headings.size(); i++) {
      texts.put(headings.get(i), i < row.cells().size() ? row.cells().get(i) : "");
    }
    return texts;
  }

  /** The key of a row; empty if it has none. */
  public String key(Row row) {
    var position = positions.get(mapping.key());
    return position < row.cells().size() ? CellText.key(row.cells().get(position)) : "";
  }

  public CheckedRow check(Row row) {
    var problems = new ArrayList<Problem>();
    var values = new TreeMap<String, String>();
    var key = key(row);
    if (row.cells().size() != headings.size()) {
      problems.add(wrongWidth(row));
      return new CheckedRow(row.line(), key, values, problems);
    }
    keyAmiss(row, key).ifPresent(problems::add);
    mapping
        .columns()
        .forEach(
            (heading, attribute) -> {
              if (Mapping.isAttribute(attribute)) {
                value(row, heading, attribute, values, problems);
              }
            });
    if (!mapping.computed().isEmpty()) {
      compute(row, values, problems);
    }
    if (gone(row) instanceof ValueCheck.Bad(var problem)) {
      problems.add(problem);
    }
    fallbacks.forEach(values::putIfAbsent);
    required.stream()
        .filter(attribute -> !values.containsKey(attribute))
        .filter(
            attribute ->
                problems.stream().noneMatch(p -> heading(attribute).equals(p.where().column())))
        .forEach(attribute -> problems.add(missing(row, attribute)));
    datesInOrder(row, values).ifPresent(problems::add);
    return new CheckedRow(row.line(), key, values, problems);
  }

  private Optional<Problem> keyAmiss(Row row, String key) {
    var where = Where.cell(file, row.line(), mapping.key());
    if (key.isEmpty()) {
      return Optional.of(
          new Problem(
              "key-missing",
              "The row has no %s.".formatted(mapping.key()),
              "It could not be found again tomorrow.",
              "Fill it in.",
              where));
    }
    if (ValueCheck.isMangledNumber(key)) {
      return Optional.of(
          new Problem(
              "key-mangled",
              "%s was a longer number once: %s.".formatted(mapping.key(), key),
              "A spreadsheet took it for a quantity and rounded it; digits are lost.",
              "Give the column the format text there, and type the number again.",
              where));
    }
    var before = CellText.beforeSpreadsheet(key);
    if (before.isPresent()) {
      return Optional.of(
          new Problem(
              "key-from-spreadsheet",
              "%s is written as a spreadsheet writes it: %s.".formatted(mapping.key(), key),
              "Taken as it stands it would be somebody else than %s.".formatted(before.get()),
              "Write %s, if that is meant.".formatted(before.get()),
              where));
    }
    if (key.equals(Suggestions.EXAMPLE_KEY)) {
      return Optional.of(
          new Problem(
              "example-row",
              "This is the example of the template.",
              "Nobody is called so.",
              "Delete the row.",
              where));
    }
    if (!mayBeKey(key)) {
      return Optional.of(
          new Problem(
              "key-invalid",
              "%s is no key: %s".formatted(mapping.key(), key),
              "It is longer than %d characters, or holds some that cannot be seen."
                  .formatted(LONGEST_KEY),
              "Type it again.",
              where));
    }
    return Optional.empty();
  }

  /** Whether a text can stand as a key at all. */
  public static boolean mayBeKey(String key) {
    return key.length() <= LONGEST_KEY && !ValueCheck.isDeceptive(key);
  }

  /** A key, and those it may have been before a spreadsheet took its zeros. */
  public List<String> possibleKeys(Row row) {
    var key = key(row);
    return key.isEmpty()
        ? List.of()
        : IntStream.rangeClosed(0, MOST_ZEROS).mapToObj(zeros -> "0".repeat(zeros) + key).toList();
  }

  /** The key a row's person had before, where a column holds that; empty if it holds none. */
  public Optional<String> formerKey(Row row) {
    return Optional.of(cell(row, formerKey)).filter(key -> !key.isEmpty());
  }

  /** Whether a row says only that its person has gone. */
  public boolean isGone(Row row) {
    return gone(row) instanceof ValueCheck.Good(var value) && Boolean.parseBoolean(value);
  }

  private ValueCheck.Checked gone(Row row) {
    var said = cell(row, gone);
    var table = mapping.tables().get(Mapping.GONE);
    var text = table == null ? said : table.getOrDefault(said, said.isEmpty() ? "" : null);
    if (text == null) {
      return new ValueCheck.Bad(codeUnknown(row, heading(Mapping.GONE), Mapping.GONE, said));
    }
    return text.isEmpty()
        ? new ValueCheck.Good("false")
        : ValueCheck.yesOrNo(text, Where.cell(file, row.line(), heading(Mapping.GONE)));
  }

  /** Empty where there is no such column, or nothing in it. */
  private static String cell(Row row, Integer position) {
    return position != null && position < row.cells().size()
        ? CellText.key(row.cells().get(position))
        : "";
  }

  /** The key of a row's manager; empty if it names none. */
  public Set<String> managerKey(Row row) {
    var position = positions.get(heading(Attributes.MANAGER));
    return position == null || position >= row.cells().size()
        ? Set.of()
        : Set.of(CellText.key(row.cells().get(position)));
  }

  private void compute(Row row, SortedMap<String, String> values, List<Problem> problems) {
    var texts = texts(row);
    mapping
        .computed()
        .forEach(
            (attribute, expression) ->
                expressions
                    .textOfRow(expression, texts)
                    .filter(text -> !text.isBlank())
                    .ifPresent(text -> take(row, attribute, attribute, text, values, problems)));
  }

  /** The problem of a key that stands in two rows. */
  public Problem doubled(CheckedRow row, long otherLine) {
    return new Problem(
        "key-doubled",
        "%s %s stands in line %d too.".formatted(mapping.key(), row.key(), otherLine),
        "One of the two would overwrite the other, and the file does not say which is right.",
        "Mend the row that is right without changing it (ebb imports mend IMPORT %d); or correct the number of one."
            .formatted(row.line()),
        Where.cell(file, row.line(), mapping.key()));
  }

  /** The problem of a key that differs from another in capitals alone. */
  public Problem like(CheckedRow row, long otherLine) {
    return new Problem(
        "key-like-another",
        "%s %s differs from that of line %d in capitals alone."
            .formatted(mapping.key(), row.key(), otherLine),
        "Two rows of one person would become two people.",
        "Mend each that is somebody of their own without changing it (ebb imports mend IMPORT %d); or correct the number."
            .formatted(row.line()),
        Where.cell(file, row.line(), mapping.key()));
  }

  /** The key of a row in small letters; empty where capitals make no odds. */
  public Optional<String> foldedKey(String key) {
    return CellText.hasLetters(key) ? Optional.of(key.toLowerCase(Locale.ROOT)) : Optional.empty();
  }

  /** The problem of a key that a spreadsheet may have shortened. */
  public Problem zerosLost(CheckedRow row, String known) {
    return new Problem(
        "key-zeros-lost",
        "%s %s is not known, and %s is.".formatted(mapping.key(), row.key(), known),
        "A spreadsheet takes leading zeros away; this would become a second person.",
        "Give the column the format text there; or write the whole number here.",
        Where.cell(file, row.line(), mapping.key()));
  }

  /** The problem of managers who lead round to the person itself. */
  public Problem managersInALoop(CheckedRow row, String managerKey) {
    return new Problem(
        "managers-in-a-loop",
        "From %s the managers lead back to %s.".formatted(managerKey, row.key()),
        "A reporting line has an upper end; approvals would go round for ever.",
        "Correct the manager of one of them.",
        Where.cell(file, row.line(), heading(Attributes.MANAGER)));
  }

  /** The problem of a manager nobody knows. */
  public Problem managerUnknown(CheckedRow row, String managerKey) {
    return new Problem(
        "manager-unknown",
        "The manager %s is in no row and not known from earlier.".formatted(managerKey),
        "The reporting line would lead nowhere.",
        "Correct the number, or add the manager's row.",
        Where.cell(file, row.line(), heading(Attributes.MANAGER)));
  }

  /** The problem of a unit that the source's own list of units does not have. */
  public Problem unitUnknown(CheckedRow row, String unit) {
    return new Problem(
        "unit-unknown",
        "The unit %s is in no list of units of this source, or was refused there.".formatted(unit),
        "Nobody would know where the person belongs.",
        "Correct it, or mend the unit and bring the bundle in again.",
        Where.cell(file, row.line(), heading(Attributes.DEPARTMENT)));
  }

  private String heading(String attribute) {
    return mapping.columns().entrySet().stream()
        .filter(entry -> entry.getValue().equals(attribute))
        .map(Map.Entry::getKey)
        .findFirst()
        .orElse(attribute);
  }

  private Problem wrongWidth(Row row) {
    return new Problem(
        "row-width",
        "The row has %d %s, the heading %d."
            .formatted(
                row.cells().size(),
                row.cells().size() == 1 ? "column" : "columns",
                headings.size()),
        row.cells().size() > headings.size()
            ? "A value holds the separator, or a column has no heading: which is which cannot be told."
            : "Its values cannot be told apart: a separator is missing.",
        row.cells().size() > headings.size()
            ? "Put quotes round values that hold the separator; or give column %d a heading."
                .formatted(headings.size() + 1)
            : "Correct the row.",
        Where.line(file, row.line()));
  }

  private Problem missing(Row row, String attribute) {
    return new Problem(
        "value-missing",
        "%s is empty.".formatted(heading(attribute)),
        "Nobody can be created without it.",
        "Fill it in.",
        Where.cell(file, row.line(), heading(attribute)));
  }

  private void value(
      Row row,
      String heading,
      String attribute,
      SortedMap<String, String> values,
      List<Problem> problems) {
    var text = plain(CellText.stripped(row.cells().get(positions.get(heading))));
    if (!text.isEmpty()) {
      take(row, heading, attribute, text, values, problems);
    }
  }

  /** What exports put before a cell that a spreadsheet would reckon with is no part of it. */
  private static String plain(String text) {
    return text.length() > 1 && text.charAt(0) == '\'' && "=+-@".indexOf(text.charAt(1)) >= 0
        ? text.substring(1)
        : text;
  }

  private void take(
      Row row,
      String heading,
      String attribute,
      String said,
      SortedMap<String, String> values,
      List<Problem> problems) {
    var table = mapping.tables().get(attribute);
    var text = table == null ? said : table.get(said);
    if (text == null) {
      problems.add(codeUnknown(row, heading, attribute, said));
      return;
    }
    if (text.isEmpty()) {
      return;
    }
    switch (check.of(attribute, text, Where.cell(file, row.line(), heading))) {
      case ValueCheck.Good(var value) -> values.put(attribute, value);
      case ValueCheck.Bad(var problem) -> problems.add(problem);
    }
  }

  private Problem codeUnknown(Row row, String heading, String attribute, String code) {
    return new Problem(
        "code-unknown",
        "It is not known what %s means in %s.".formatted(code, heading),
        "The source writes codes there, and this one was never met.",
        "Say once which %s it stands for; it is remembered.".formatted(attribute),
        Where.cell(file, row.line(), heading));
  }

  private Optional<Problem> datesInOrder(Row row, Map<String, String> values) {
    var start = values.get(Attributes.START_DATE);
    var end = values.get(Attributes.END_DATE);
    if (start == null || end == null || start.compareTo(end) <= 0) {
      return Optional.empty();
    }
    return Optional.of(
        new Problem(
            "end-before-start",
            "The last day %s lies before the first day %s.".formatted(end, start),
            "The person would never be here.",
            "Correct one of the two.",
            Where.cell(file, row.line(), heading(Attributes.END_DATE))));
  }
}
