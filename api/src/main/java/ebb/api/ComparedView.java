package ebb.api;

import java.util.List;

/**
 * One person on two sides.
 *
 * @param left by what the left side calls them; null if it does not have them
 * @param differing values that are not the same on both
 */
public record ComparedView(
    long person,
    String displayName,
    String left,
    String right,
    List<ComparedValueView> differing) {}
