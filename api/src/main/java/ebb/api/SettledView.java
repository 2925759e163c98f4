package ebb.api;

import java.util.List;

/**
 * What became of findings.
 *
 * @param changeSet what follows, to be released; null if nothing does
 * @param settled how many
 * @param leftOut how many could not be taken along
 * @param examples of those, at most a hundred
 */
public record SettledView(Long changeSet, long settled, long leftOut, List<LeftOutView> examples) {}
