package ebb.core.unit;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Which unit stands below which, by their names: those are what is known of people.
 *
 * @param parents unit to the one above it; null for one that stands at the top
 */
public record UnitTree(SortedMap<String, String> parents) {
  public static final UnitTree EMPTY = new UnitTree(new TreeMap<>());

  public UnitTree {
    parents = new TreeMap<>(parents);
  }

  /**
   * The tree that units by their keys make. One whose parent nobody knows stands at the top.
   *
   * @param units key to what is said of it: its name, and the key of its parent
   */
  public static UnitTree of(Map<String, ? extends Map<String, String>> units) {
    var parents = new TreeMap<String, String>();
    units
        .values()
        .forEach(
            unit -> {
              var above = units.get(unit.getOrDefault("parent", ""));
              parents.put(unit.get("name"), above == null ? null : above.get("name"));
            });
    return new UnitTree(parents);
  }

  /** The same with what another knows of units this one does not. */
  public UnitTree or(UnitTree other) {
    var all = new TreeMap<>(other.parents);
    all.putAll(parents);
    return new UnitTree(all);
  }

  /**
   * A unit and those above it, the nearest first. One that nobody knows is alone; a ring ends where
   * it began.
   */
  public List<String> path(String unit) {
    var path = new LinkedHashSet<String>();
    for (var at = unit; at != null && path.add(at); ) {
      at = parents.get(at);
    }
    return List.copyOf(path);
  }

  /** Those that stand directly below a unit; below null, those at the top. */
  public List<String> below(String unit) {
    var below = new ArrayList<String>();
    parents.forEach(
        (name, parent) -> {
          if (Objects.equals(parent, unit)) {
            below.add(name);
          }
        });
    return below;
  }

  /** The units that stand elsewhere than they did, with all below them. */
  public SortedSet<String> movedSince(UnitTree before) {
    var moved = new TreeSet<String>();
    var all = new TreeSet<>(parents.keySet());
    all.addAll(before.parents.keySet());
    all.stream().filter(unit -> !path(unit).equals(before.path(unit))).forEach(moved::add);
    return moved;
  }
}
