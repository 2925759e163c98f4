package ebb.core.person;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Collections;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/** Everything one source says of one person, by attribute. A missing attribute is not asserted. */
public record Assertions(PersonId person, String source, SortedMap<String, Asserted> values) {
  public Assertions {
    values = Collections.unmodifiableSortedMap(new TreeMap<>(values));
  }

  public static Assertions none(PersonId person, String source) {
    return new Assertions(person, source, new TreeMap<>());
  }

  /** As {@link #with(Map, LocalDate, Instant, long)}, for good. */
  public Assertions with(Map<String, String> edits, Instant at, long cause) {
    return with(edits, null, at, cause);
  }

  /**
   * These assertions after an input. A value asserted already keeps its since and its cause.
   *
   * @param edits null as a value takes the assertion away
   * @param until the last day the values are said; null for no end
   */
  public Assertions with(Map<String, String> edits, LocalDate until, Instant at, long cause) {
    var next = new TreeMap<>(values);
    edits.forEach(
        (attribute, value) -> {
          if (value == null) {
            next.remove(attribute);
          } else if (!isSaid(attribute, value, until)) {
            next.put(attribute, new Asserted(value, at, cause, until));
          }
        });
    return new Assertions(person, source, next);
  }

  private boolean isSaid(String attribute, String value, LocalDate until) {
    var now = values.get(attribute);
    return now != null && now.value().equals(value) && Objects.equals(now.until(), until);
  }

  /** The attributes that were said up to a day before this one. */
  public SortedSet<String> endedBefore(LocalDate day) {
    var ended = new TreeSet<String>();
    values.forEach(
        (attribute, asserted) -> {
          if (asserted.until() != null && asserted.until().isBefore(day)) {
            ended.add(attribute);
          }
        });
    return ended;
  }

  /** The edits among these that would change anything; empty if all is asserted so already. */
  public SortedMap<String, String> changing(Map<String, String> edits) {
    return changing(edits, null);
  }

  /** As {@link #changing(Map)}, for values said up to a day. */
  public SortedMap<String, String> changing(Map<String, String> edits, LocalDate until) {
    var changing = new TreeMap<String, String>();
    edits.forEach(
        (attribute, value) -> {
          if (value == null ? values.containsKey(attribute) : !isSaid(attribute, value, until)) {
            changing.put(attribute, value);
          }
        });
    return changing;
  }

  /**
   * The edits that take back what a cause did here. What was overridden since stays.
   *
   * @param left how the cause left these assertions
   * @param before how it found them
   */
  public SortedMap<String, String> reverting(Assertions left, Assertions before) {
    var edits = new TreeMap<String, String>();
    var attributes = new TreeSet<>(left.values().keySet());
    attributes.addAll(before.values().keySet());
    for (var attribute : attributes) {
      var wasChanged = !Objects.equals(left.text(attribute), before.text(attribute));
      if (wasChanged && Objects.equals(text(attribute), left.text(attribute))) {
        edits.put(attribute, before.text(attribute));
      }
    }
    return edits;
  }

  private String text(String attribute) {
    var asserted = values.get(attribute);
    return asserted == null ? null : asserted.value();
  }
}
