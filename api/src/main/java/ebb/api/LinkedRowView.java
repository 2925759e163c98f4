package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * What was said of one row of a linked file.
 *
 * @param line from 1, the heading being line 1; of pictures their number in the order of names
 * @param key of the unit, the group or the person
 * @param says column to what stands there
 */
public record LinkedRowView(
    long line, String verdict, String key, Map<String, String> says, List<ProblemView> problems) {}
