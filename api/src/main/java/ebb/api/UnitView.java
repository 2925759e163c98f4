package ebb.api;

/**
 * A unit. The list is in the order of the tree: each stands before those below it.
 *
 * @param level 0 at the top
 * @param parent the unit above; null at the top
 * @param known whether a source says where it stands; otherwise it is only named by people
 * @param people who belong to it itself, today or later
 */
public record UnitView(String name, int level, String parent, boolean known, long people) {}
