package ebb.core.rule;

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
 * @param seat the seat everyone of this rule takes; null for none
 * @param leadDays days before the first day on which the account is prepared
 */
public record Rule(
    String name,
    String application,
    String condition,
    SortedMap<String, String> values,
    SortedMap<String, String> references,
    SortedSet<String> groups,
    String seat,
    int leadDays) {
  public Rule {
    values = new TreeMap<>(values == null ? Map.of() : values);
    references = new TreeMap<>(references == null ? Map.of() : references);
    groups = groups == null ? new TreeSet<>() : new TreeSet<>(groups);
  }
}
