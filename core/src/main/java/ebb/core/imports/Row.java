package ebb.core.imports;

import java.util.List;

/**
 * One line of a source, as it was read.
 *
 * @param line from 1, the heading being line 1
 */
public record Row(long line, List<String> cells) {}
