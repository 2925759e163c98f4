package ebb.core.rule;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Who gets an account in an application, and how it is filled.
 *
 * @param condition CEL over person; true for those who get it
 * @param values account attribute to CEL; an empty result leaves the attribute empty
 * @param references account attribute to the person attribute that names another person
 * @param groups groups everyone of this rule is in
 * @param seats the first of them whose condition holds is taken; empty for none
 * @param leadDays days before the first day on which the account is prepared
 * @param from the day from which it gives; nothing to whoever lacks that date. Null for always
 * @param until the last day on which it gives; without end to whoever lacks that date. Null for no
 *     end
 * @param byItself how many people a day it may change with nobody's release, where a feed or a date
 *     brings it about; null for no limit of its own
 */
public record Rule(
    String name,
    String application,
    String condition,
    SortedMap<String, String> values,
    SortedMap<String, String> references,
    SortedSet<String> groups,
    List<SeatChoice> seats,
    int leadDays,
    Bound from,
    Bound until,
    Integer byItself) {
  static final String CONDITION = "condition";

  public Rule {
    values = new TreeMap<>(values == null ? Map.of() : values);
    references = new TreeMap<>(references == null ? Map.of() : references);
    groups = groups == null ? new TreeSet<>() : new TreeSet<>(groups);
    seats = seats == null ? List.of() : List.copyOf(seats);
  }

  /** Whether any of its expressions names a variable. */
  public boolean reads(String variable) {
    return expressions().values().stream()
        .anyMatch(expression -> expression.matches("(?s).*\\b" + variable + "\\b.*"));
  }

  /** All expressions of it, by the field they stand in. */
  public SortedMap<String, String> expressions() {
    var all = new TreeMap<>(values);
    all.put(CONDITION, condition);
    seats.stream()
        .filter(choice -> choice.condition() != null)
        .forEach(choice -> all.put("seats." + choice.seat(), choice.condition()));
    return all;
  }
}
