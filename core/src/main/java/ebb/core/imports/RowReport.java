package ebb.core.imports;

import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Map;

/**
 * What was said of one row. Unchanged rows are only counted.
 *
 * @param person null where it is nobody yet
 * @param values as checked
 * @param resembles people it may be, each with the reasons
 * @param answer what an operator decided for a row set aside: "new" or "same:ID"; null until then
 */
public record RowReport(
    long line,
    Verdict verdict,
    String key,
    PersonId person,
    Map<String, String> values,
    List<Problem> problems,
    Map<Long, List<String>> resembles,
    String answer) {}
