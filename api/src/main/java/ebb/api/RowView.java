package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * What was said of one row.
 *
 * @param texts the row as it was read, by its headings, where it may have to be mended or decided
 *     about; empty otherwise
 * @param values as checked, by attribute
 * @param edits what becomes different, where somebody is known already
 * @param resembles people it may be, the likeliest first
 */
public record RowView(
    long line,
    String verdict,
    String key,
    Long person,
    String name,
    Map<String, String> texts,
    Map<String, String> values,
    List<EditView> edits,
    List<ProblemView> problems,
    List<ResemblanceView> resembles,
    String answer) {}
