package ebb.core.imports;

import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What was said of one row of a linked file.
 *
 * @param line from 1, the heading being line 1; of pictures their number in the order of names
 * @param key the unit's, the group's, or the person's; empty if the row has none
 * @param says column of the linked file to what stands there; empty cells are left out
 */
public record LinkedRow(
    LinkedFile file,
    long line,
    Verdict verdict,
    String key,
    SortedMap<String, String> says,
    List<Problem> problems) {
  public LinkedRow {
    says = Collections.unmodifiableSortedMap(new TreeMap<>(says));
    problems = List.copyOf(problems);
  }

  public String says(String column) {
    return says.getOrDefault(column, "");
  }

  public LinkedRow as(Verdict verdict) {
    return new LinkedRow(file, line, verdict, key, says, problems);
  }

  /** The same row with a problem more: refused, unless it only waits. */
  public LinkedRow with(Verdict verdict, Problem problem) {
    var all = new ArrayList<>(problems);
    all.add(problem);
    return new LinkedRow(file, line, verdict, key, says, all);
  }

  /** The same row, saying what is as it was, or something else. */
  LinkedRow comparedWith(Map<String, String> before) {
    if (verdict == Verdict.REFUSED) {
      return this;
    }
    return as(
        before == null ? Verdict.NEW : before.equals(says) ? Verdict.UNCHANGED : Verdict.CHANGED);
  }
}
