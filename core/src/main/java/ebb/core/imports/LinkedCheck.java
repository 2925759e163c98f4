package ebb.core.imports;

import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** Checks the rows of one linked file: every identifier in them must lead somewhere. */
public final class LinkedCheck {
  private static final int LONGEST = 200;

  /** No organisation is so deep; beyond it a chain is taken for sound. */
  private static final int MOST_LEVELS = 100;

  private final LinkedFile file;
  private final String name;
  private final Map<String, Integer> positions;
  private final List<String> headings;
  private final ValueCheck check;

  /**
   * @param name of the file, as the operator knows it
   * @param check for dates
   */
  public LinkedCheck(LinkedFile file, String name, List<String> headings, ValueCheck check) {
    this.file = file;
    this.name = name;
    this.positions = file.positions(headings);
    this.headings = headings;
    this.check = check;
  }

  /** Looks at one row alone: what must be there is, and can stand there. */
  public LinkedRow read(Row row) {
    var says = new TreeMap<String, String>();
    var problems = new ArrayList<Problem>();
    if (row.cells().size() != headings.size()) {
      problems.add(wrongWidth(row));
    } else {
      for (var column : positions.keySet()) {
        take(row, column, says, problems);
      }
      file.required().stream()
          .filter(column -> !says.containsKey(column))
          .filter(column -> problems.stream().noneMatch(one -> isAbout(one, column)))
          .forEach(column -> problems.add(missing(row, column)));
      endsBeforeItBegins(row, says, problems);
    }
    return new LinkedRow(
        file,
        row.line(),
        problems.isEmpty() ? Verdict.NEW : Verdict.REFUSED,
        says.getOrDefault(file.required().getFirst(), ""),
        says,
        problems);
  }

  private void take(
      Row row, String column, SortedMap<String, String> says, List<Problem> problems) {
    var text = row.cells().get(positions.get(column)).strip();
    var where = Where.cell(name, row.line(), heading(column));
    if (text.isEmpty()) {
      return;
    }
    if (text.length() > LONGEST || ValueCheck.isDeceptive(text)) {
      problems.add(
          new Problem(
              "linked-invalid",
              "%s cannot be taken as it stands.".formatted(heading(column)),
              "It is longer than %d characters, or holds some that cannot be seen."
                  .formatted(LONGEST),
              "Type it again.",
              where));
      return;
    }
    var checked =
        switch (column) {
          case "from", "until" -> check.of(Attributes.START_DATE, text, where);
          case "gone" -> ValueCheck.yesOrNo(text, where);
          default -> new ValueCheck.Good(text);
        };
    switch (checked) {
      case ValueCheck.Good(var value) -> says.put(column, value);
      case ValueCheck.Bad(var problem) -> problems.add(problem);
    }
  }

  private void endsBeforeItBegins(Row row, SortedMap<String, String> says, List<Problem> problems) {
    if (says.containsKey("from")
        && says.containsKey("until")
        && LocalDate.parse(says.get("until")).isBefore(LocalDate.parse(says.get("from")))) {
      problems.add(
          new Problem(
              "membership-ends-first",
              "It ends on %s, before it begins on %s."
                  .formatted(says.get("until"), says.get("from")),
              "Nobody would ever be in the group by it.",
              "Correct one of the two.",
              Where.cell(name, row.line(), heading("until"))));
    }
  }

  /**
   * Units against each other: each once, below one that is there, and no ring.
   *
   * @param before what was known of each unit
   */
  public List<LinkedRow> units(
      List<LinkedRow> rows, Map<String, SortedMap<String, String>> before) {
    var once = onlyOnce(rows);
    var there = keys(once);
    var below =
        once.stream()
            .map(
                row ->
                    row.says("parent").isEmpty() || there.contains(row.says("parent"))
                        ? row
                        : refuse(row, parentUnknown(row)))
            .toList();
    var parents = new HashMap<String, String>();
    below.stream()
        .filter(row -> row.verdict() != Verdict.REFUSED)
        .forEach(row -> parents.put(row.key(), row.says("parent")));
    return below.stream()
        .map(row -> leadsBack(row.key(), parents) ? refuse(row, loop(row)) : row)
        .map(row -> row.comparedWith(before.get(row.key())))
        .toList();
  }

  /**
   * Groups against each other, and against the applications there are.
   *
   * @param before what was known of each group
   */
  public List<LinkedRow> groups(
      List<LinkedRow> rows,
      Set<String> applications,
      Map<String, SortedMap<String, String>> before) {
    return onlyOnce(rows).stream()
        .map(
            row ->
                row.says("application").isEmpty() || applications.contains(row.says("application"))
                    ? row
                    : refuse(row, applicationUnknown(row, applications)))
        .map(row -> row.comparedWith(before.get(row.key())))
        .toList();
  }

  private List<LinkedRow> onlyOnce(List<LinkedRow> rows) {
    var first = new HashMap<String, Long>();
    UnaryOperator<LinkedRow> once =
        row -> {
          var line = row.key().isEmpty() ? null : first.putIfAbsent(row.key(), row.line());
          return line == null ? row : refuse(row, doubled(row, line));
        };
    return rows.stream().map(once).toList();
  }

  private static Set<String> keys(List<LinkedRow> rows) {
    return rows.stream()
        .filter(row -> row.verdict() != Verdict.REFUSED)
        .map(LinkedRow::key)
        .collect(Collectors.toCollection(HashSet::new));
  }

  private static boolean leadsBack(String key, Map<String, String> parents) {
    var above = parents.getOrDefault(key, "");
    for (int level = 0; !above.isEmpty() && level < MOST_LEVELS; level++) {
      if (above.equals(key)) {
        return true;
      }
      above = parents.getOrDefault(above, "");
    }
    return false;
  }

  private static LinkedRow refuse(LinkedRow row, Problem problem) {
    return row.with(Verdict.REFUSED, problem);
  }

  /** A membership of somebody neither in the list nor known. */
  public LinkedRow memberUnknown(LinkedRow row) {
    return refuse(
        row,
        new Problem(
            "member-unknown",
            "The person %s is in no row and not known from earlier.".formatted(row.key()),
            "There is nobody to put into the group.",
            "Correct the number, or add the person's row.",
            Where.cell(name, row.line(), heading("person"))));
  }

  /** A membership of somebody whose own row cannot go on yet: it follows by itself. */
  public LinkedRow memberWaits(LinkedRow row) {
    return row.with(
        Verdict.SET_ASIDE,
        new Problem(
            "member-waits",
            "The row of %s is refused or set aside.".formatted(row.key()),
            "Nothing is given to somebody who is not taken in.",
            "Mend or answer the person's row; this one follows by itself.",
            Where.cell(name, row.line(), heading("person"))));
  }

  /** A membership of a group that no list of groups names. */
  public LinkedRow groupUnknown(LinkedRow row) {
    return refuse(
        row,
        new Problem(
            "group-unknown",
            "The group %s is in no list of groups, or was refused there."
                .formatted(row.says("group")),
            "It is not known in which application it would be.",
            "Correct it, or add the group to the groups of the bundle.",
            Where.cell(name, row.line(), heading("group"))));
  }

  /** A membership that an earlier line names already. */
  public LinkedRow membershipDoubled(LinkedRow row, long line) {
    return refuse(
        row,
        new Problem(
            "membership-doubled",
            "Line %d says already that %s is in %s.".formatted(line, row.key(), row.says("group")),
            "Their dates may differ, and only one can hold.",
            "Leave one of the two out.",
            Where.line(name, row.line())));
  }

  private Problem doubled(LinkedRow row, long line) {
    return new Problem(
        "linked-doubled",
        "%s %s stands in line %d too."
            .formatted(heading(file.required().getFirst()), row.key(), line),
        "One of the two would overwrite the other.",
        "Give each its own number, or leave one out.",
        Where.cell(name, row.line(), heading(file.required().getFirst())));
  }

  private Problem parentUnknown(LinkedRow row) {
    return new Problem(
        "unit-without-parent",
        "%s lies below %s, which is not there.".formatted(row.says("name"), row.says("parent")),
        "It would hang in the air: nothing that holds for the units above would reach it.",
        "Correct the number above, or add that unit.",
        Where.cell(name, row.line(), heading("parent")));
  }

  private Problem loop(LinkedRow row) {
    return new Problem(
        "units-in-a-loop",
        "From %s the way up leads back to it.".formatted(row.says("name")),
        "A tree of units has an upper end.",
        "Correct what one of them lies below.",
        Where.cell(name, row.line(), heading("parent")));
  }

  private Problem applicationUnknown(LinkedRow row, Set<String> applications) {
    return new Problem(
        "group-without-application",
        "There is no application %s.".formatted(row.says("application")),
        applications.isEmpty()
            ? "No application is connected yet."
            : "Connected are: %s.".formatted(String.join(", ", applications)),
        "Correct it, or connect the application first.",
        Where.cell(name, row.line(), heading("application")));
  }

  private Problem missing(Row row, String column) {
    return new Problem(
        "linked-missing",
        "%s is empty.".formatted(heading(column)),
        "The row means nothing without it.",
        "Fill it in.",
        Where.cell(name, row.line(), heading(column)));
  }

  private Problem wrongWidth(Row row) {
    return new Problem(
        "row-width",
        "The row has %d columns, the heading %d.".formatted(row.cells().size(), headings.size()),
        "Its values cannot be told apart.",
        "Correct the row; put quotes round values that hold a comma.",
        Where.line(name, row.line()));
  }

  private boolean isAbout(Problem problem, String column) {
    return heading(column).equals(problem.where().column());
  }

  private String heading(String column) {
    var position = positions.get(column);
    return position == null ? column : headings.get(position);
  }
}
