package ebb.core.imports;

import ebb.core.problem.Problem;
import java.util.List;
import java.util.SortedMap;

/**
 * A row after its check.
 *
 * @param key empty if the row has none, which is one of its problems
 * @param values by attribute; an empty cell is no value; a manager still by key
 * @param problems empty if the row may go on
 */
public record CheckedRow(
    long line, String key, SortedMap<String, String> values, List<Problem> problems) {}
