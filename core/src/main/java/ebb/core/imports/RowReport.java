package ebb.core.imports;

import ebb.core.imports.Likeness.Resemblance;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Map;

/**
 * What was said of one row. Unchanged rows are only counted.
 *
 * @param person null where it is nobody yet
 * @param texts the row as it was read, by its headings, where it may have to be mended or decided
 *     about; empty otherwise
 * @param values as checked
 * @param edits what becomes different, where somebody is known already
 * @param resembles people it may be, by their numbers
 * @param answer what an operator decided for a row set aside: "new" or "same:ID"; null until then
 */
public record RowReport(
    long line,
    Verdict verdict,
    String key,
    PersonId person,
    Map<String, String> texts,
    Map<String, String> values,
    Map<String, Edit> edits,
    List<Problem> problems,
    Map<Long, Resemblance> resembles,
    String answer) {
  /**
   * @param from null where there was nothing
   * @param to null where it is taken away
   */
  public record Edit(String from, String to) {}

  /** The same row, answered. */
  public RowReport answered(PersonId person, String answer) {
    return new RowReport(
        line, verdict, key, person, texts, values, edits, problems, resembles, answer);
  }
}
