package ebb.demo;

import java.util.ArrayList;
import java.util.List;

/** One line of the HR file, under HR's own headings. Dates as HR writes them; empty for none. */
record HrRow(List<String> cells) {
  static final List<String> HEADINGS =
      List.of(
          "Staff no",
          "Family name",
          "Given name",
          "Job",
          "Unit",
          "Island",
          "Line manager",
          "Contract",
          "Private mail",
          "Mobile",
          "First day",
          "Last day",
          "Payroll group");

  String get(String heading) {
    return cells.get(HEADINGS.indexOf(heading));
  }

  /** The same row with another value under a heading. */
  HrRow with(String heading, String value) {
    var next = new ArrayList<>(cells);
    next.set(HEADINGS.indexOf(heading), value);
    return new HrRow(List.copyOf(next));
  }

  String staffNo() {
    return get("Staff no");
  }

  String name() {
    return get("Given name") + " " + get("Family name");
  }
}
