package ebb.service.comparison;

import ebb.core.person.Attributes;
import ebb.service.comparison.Side.Has;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;

/** Compares two sides person by person, and counts. */
final class Comparing {
  private final Side left;
  private final Side right;
  private long both;
  private long leftOnly;
  private long rightOnly;
  private final SortedMap<String, Agreement> agreements = new TreeMap<>();

  Comparing(Side left, Side right) {
    this.left = left;
    this.right = right;
  }

  /** How often an attribute was the same, differed, or stood on one side alone. */
  static final class Agreement {
    private long same;
    private long differ;
    private long leftEmpty;
    private long rightEmpty;

    long same() {
      return same;
    }

    long differ() {
      return differ;
    }

    long leftEmpty() {
      return leftEmpty;
    }

    long rightEmpty() {
      return rightEmpty;
    }

    private boolean isKnownToBoth() {
      return same + differ > 0 || (leftEmpty > 0 && rightEmpty > 0);
    }
  }

  /** A value that is not the same. */
  record Differing(String attribute, String left, String right) {}

  void count(Optional<Has> one, Optional<Has> other) {
    if (one.isEmpty() || other.isEmpty()) {
      leftOnly += one.isPresent() ? 1 : 0;
      rightOnly += other.isPresent() ? 1 : 0;
      return;
    }
    both++;
    for (var attribute : attributes(one.get(), other.get())) {
      count(attribute, texts(one.get(), attribute), texts(other.get(), attribute));
    }
  }

  private void count(String attribute, List<String> one, List<String> other) {
    var agreement = agreements.computeIfAbsent(attribute, _ -> new Agreement());
    if (one.isEmpty()) {
      agreement.leftEmpty++;
    } else if (other.isEmpty()) {
      agreement.rightEmpty++;
    } else if (isSame(attribute, one, other)) {
      agreement.same++;
    } else {
      agreement.differ++;
    }
  }

  /** What both have and is not the same. */
  List<Differing> differing(Has one, Has other) {
    var differing = new ArrayList<Differing>();
    for (var attribute : attributes(one, other)) {
      var here = texts(one, attribute);
      var there = texts(other, attribute);
      if (!here.isEmpty() && !there.isEmpty() && !isSame(attribute, here, there)) {
        differing.add(new Differing(attribute, String.join("; ", here), String.join("; ", there)));
      }
    }
    return differing;
  }

  /** A reference is another thing to each application. */
  private static TreeSet<String> attributes(Has one, Has other) {
    var names = new TreeSet<>(one.values().keySet());
    names.addAll(other.values().keySet());
    names.remove(Attributes.MANAGER);
    return names;
  }

  private static List<String> texts(Has has, String attribute) {
    return has.values().getOrDefault(attribute, List.of());
  }

  /** The same to either is the same: one that normalises is not to be told that it differs. */
  private boolean isSame(String attribute, List<String> one, List<String> other) {
    return left.equalityOf(attribute).same(one, other)
        || right.equalityOf(attribute).same(one, other);
  }

  long both() {
    return both;
  }

  long leftOnly() {
    return leftOnly;
  }

  long rightOnly() {
    return rightOnly;
  }

  /**
   * Of attributes that both sides know; one of which only one side ever speaks is no difference.
   */
  Map<String, Agreement> agreements() {
    var known = new TreeMap<String, Agreement>();
    agreements.forEach(
        (attribute, agreement) -> {
          if (agreement.isKnownToBoth()) {
            known.put(attribute, agreement);
          }
        });
    return known;
  }
}
