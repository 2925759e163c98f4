package ebb.core.compare;

import ebb.core.application.Level;
import java.util.SortedMap;
import java.util.TreeMap;

/** One way in which what an application holds is not what it should hold. */
public sealed interface Difference {
  /** The account is missing. */
  record Missing(Level level, String ground, SortedMap<String, Edit> edits) implements Difference {}

  /** Some attributes differ; holds only those that do. */
  record Differing(SortedMap<String, Edit> edits) implements Difference {
    public Differing {
      edits = new TreeMap<>(edits);
    }
  }

  /** It is at another level than it should be: active or suspended. */
  record OffLevel(Level from, Level to, String ground) implements Difference {}

  record NotInGroup(String group, String ground) implements Difference {}

  /** In a group that Ebb put it in and that nothing gives it any more. */
  record InGroup(String group) implements Difference {}

  record WithoutSeat(String seat, String ground) implements Difference {}

  /** In a seat that Ebb gave it and that nothing gives it any more. */
  record InSeat(String seat) implements Difference {}

  /** Nothing entitles the person to it any more: it is to be closed, by its gates. */
  record NotEntitled(Level level) implements Difference {}
}
