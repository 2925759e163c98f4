package ebb.core.imports;

import ebb.core.name.Folding;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Files that come along with a list of people, joined to it by identifiers. */
public enum LinkedFile {
  /** The organisation's tree. */
  UNITS(List.of("unit", "name"), List.of("parent")),
  /** Groups, each in one application. */
  GROUPS(List.of("group", "application"), List.of("name")),
  /** Who is in which group, by the keys of both; or has gone from it. */
  MEMBERSHIPS(List.of("person", "group"), List.of("from", "until", "gone")),
  /** One picture a person, called by their key. */
  PICTURES(List.of(), List.of());

  private static final Map<String, Set<String>> HEADINGS = headings();

  private final List<String> required;
  private final List<String> optional;

  LinkedFile(List<String> required, List<String> optional) {
    this.required = required;
    this.optional = optional;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  public List<String> required() {
    return required;
  }

  /** All columns, those that must be there first. */
  public List<String> columns() {
    var all = new ArrayList<>(required);
    all.addAll(optional);
    return all;
  }

  /**
   * Which linked file a table is: called so and with the columns of it, or with no other columns.
   *
   * @param name of the file
   * @return empty if it is none, and so a list of people
   */
  public static Optional<LinkedFile> of(String name, List<String> headings) {
    return Arrays.stream(values())
        .filter(file -> !file.required.isEmpty())
        .filter(file -> file.positions(headings).keySet().containsAll(file.required))
        .filter(
            file ->
                Folding.forComparing(name).startsWith(Folding.forComparing(file.word()))
                    || file.positions(headings).size() == headings.size())
        .findFirst();
  }

  /** Where each column of this file stands. */
  public Map<String, Integer> positions(List<String> headings) {
    var positions = new TreeMap<String, Integer>();
    for (int i = 0; i < headings.size(); i++) {
      var folded = Folding.forComparing(headings.get(i));
      int position = i;
      columns().stream()
          .filter(column -> HEADINGS.get(word() + "." + column).contains(folded))
          .findFirst()
          .ifPresent(column -> positions.putIfAbsent(column, position));
    }
    return positions;
  }

  /** A person's key is called as in lists of people, or as a member. */
  private static Map<String, Set<String>> headings() {
    var headings = new TreeMap<>(Words.folded(Words.of("linked.properties")));
    var keys = Words.folded(Words.of("headings.properties")).get("key");
    headings.computeIfPresent(
        "memberships.person",
        (_, own) -> Stream.concat(own.stream(), keys.stream()).collect(Collectors.toSet()));
    return headings;
  }
}
