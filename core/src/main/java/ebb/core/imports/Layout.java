package ebb.core.imports;

import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;

/** A mapping bound to the headings of one file: checks its rows, each with all its problems. */
public final class Layout {
  private final String file;
  private final Mapping mapping;
  private final Map<String, Integer> positions;
  private final int width;
  private final ValueCheck check;

  Layout(String file, Mapping mapping, Map<String, Integer> positions, int width) {
    this.file = file;
    this.mapping = mapping;
    this.positions = positions;
    this.width = width;
    this.check = new ValueCheck(mapping.dateFormat());
  }

  /** The key of a row; empty if it has none. */
  public String key(Row row) {
    var position = positions.get(mapping.key());
    return position < row.cells().size() ? row.cells().get(position).strip() : "";
  }

  public CheckedRow check(Row row) {
    var problems = new ArrayList<Problem>();
    var values = new TreeMap<String, String>();
    var key = key(row);
    if (row.cells().size() != width) {
      problems.add(wrongWidth(row));
    } else {
      if (key.isEmpty()) {
        problems.add(
            new Problem(
                "key-missing",
                "The row has no %s.".formatted(mapping.key()),
                "It could not be found again tomorrow.",
                "Fill it in.",
                Where.cell(file, row.line(), mapping.key())));
      }
      mapping
          .columns()
          .forEach((heading, attribute) -> value(row, heading, attribute, values, problems));
      Attributes.COMPULSORY.stream()
          .sorted()
          .filter(attribute -> !values.containsKey(attribute))
          .filter(
              attribute ->
                  problems.stream().noneMatch(p -> heading(attribute).equals(p.where().column())))
          .forEach(attribute -> problems.add(missing(row, attribute)));
      datesInOrder(row, values).ifPresent(problems::add);
    }
    return new CheckedRow(row.line(), key, values, problems);
  }

  /** The problem of a key that stands in two rows. */
  public Problem doubled(CheckedRow row, long firstLine) {
    return new Problem(
        "key-doubled",
        "%s %s stands in line %d too.".formatted(mapping.key(), row.key(), firstLine),
        "One of the two would overwrite the other.",
        "Give each person one row, or correct the number.",
        Where.cell(file, row.line(), mapping.key()));
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
        "The row has %d columns, the heading %d.".formatted(row.cells().size(), width),
        "Its values cannot be told apart: a separator is missing, or one too many is in a value.",
        "Correct the row; put quotes round values that hold a comma.",
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
    var text = row.cells().get(positions.get(heading)).strip();
    if (text.isEmpty()) {
      return;
    }
    switch (check.of(attribute, text, Where.cell(file, row.line(), heading))) {
      case ValueCheck.Good(var value) -> values.put(attribute, value);
      case ValueCheck.Bad(var problem) -> problems.add(problem);
    }
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
