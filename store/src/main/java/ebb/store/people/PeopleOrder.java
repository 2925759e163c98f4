package ebb.store.people;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** By what a list of people is ordered. Each has an index that names all its columns. */
public record PeopleOrder(By by, boolean descending) {
  public static final PeopleOrder NAME = new PeopleOrder(By.NAME, false);

  public enum By {
    NAME(false, "sortName"),
    LOGIN(true, "login"),
    DEPARTMENT(true, "department", "sortName"),
    NUMBER(true, "employeeNumber"),
    START_DATE(true, "startDate"),
    END_DATE(true, "endDate");

    private final boolean mayBeBlank;
    private final List<String> columns;

    By(boolean mayBeBlank, String... columns) {
      this.mayBeBlank = mayBeBlank;
      this.columns = List.of(columns);
    }
  }

  boolean mayBeBlank() {
    return by.mayBeBlank;
  }

  /** Columns by which rows are told apart; the blank one does not count among blank rows. */
  List<String> columns(boolean blank) {
    return blank ? by.columns.subList(1, by.columns.size()) : by.columns;
  }

  String condition(boolean blank, boolean follows) {
    var first = "p." + by.columns.getFirst();
    var kind =
        blank ? " and " + first + " is null" : mayBeBlank() ? " and " + first + " is not null" : "";
    if (!follows) {
      return kind;
    }
    var columns = columns(blank);
    return kind
        + " and (%s) %s (%s)"
            .formatted(
                listed(columns, name -> "p." + name) + "p.id",
                descending ? "<" : ">",
                IntStream.range(0, columns.size())
                        .mapToObj(i -> ":after" + i + ", ")
                        .collect(Collectors.joining())
                    + ":afterId");
  }

  /** An index is used for order only if all its columns are named, the filtered one too. */
  String clause(boolean blank, PeopleFilter filter) {
    var direction = descending ? " desc" : "";
    var filtered =
        by == By.NAME && filter.isOneDepartment() ? "p.department" + direction + ", " : "";
    return " order by "
        + filtered
        + listed(columns(blank), name -> "p." + name + direction)
        + "p.id"
        + direction;
  }

  private static String listed(List<String> columns, Function<String, String> name) {
    return columns.stream().map(column -> name.apply(column) + ", ").collect(Collectors.joining());
  }

  /** Where the page after this row begins. */
  PeopleCursor after(PersonEntity row) {
    List<String> values =
        by.columns.stream()
            .map(
                column ->
                    switch (column) {
                      case "sortName" -> row.sortName;
                      case "login" -> row.login;
                      case "department" -> row.department;
                      case "employeeNumber" -> row.employeeNumber;
                      case "startDate" -> text(row.startDate);
                      case "endDate" -> text(row.endDate);
                      default -> throw new IllegalStateException(column);
                    })
            .collect(Collectors.toCollection(ArrayList::new));
    return new PeopleCursor(by, values.getFirst() == null, values, row.id);
  }

  private static String text(Object value) {
    return value == null ? null : value.toString();
  }
}
