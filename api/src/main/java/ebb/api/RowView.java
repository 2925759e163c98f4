package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * What was said of one row.
 *
 * @param resembles people it may be: number to reasons
 */
public record RowView(
    long line,
    String verdict,
    String key,
    Long person,
    String name,
    List<ProblemView> problems,
    Map<Long, List<String>> resembles,
    String answer) {}
