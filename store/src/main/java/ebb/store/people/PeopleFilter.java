package ebb.store.people;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * A condition over people that the database can answer. Built from parts that only name columns
 * known here; every value is a parameter.
 */
public final class PeopleFilter {
  public static final PeopleFilter EVERYONE = new PeopleFilter("1 = 1", List.of());

  /** Attribute to column: what can be searched. */
  private static final Map<String, String> COLUMNS =
      Map.of(
          "displayname", "p.displayName",
          "name.familyname", "p.sortName",
          "username", "p.login",
          "department", "p.department",
          "usertype", "p.userType",
          "employeenumber", "p.employeeNumber",
          "startdate", "p.startDate",
          "enddate", "p.endDate",
          "id", "p.id");

  private final String condition;
  private final List<Object> parameters;

  private PeopleFilter(String condition, List<Object> parameters) {
    this.condition = condition;
    this.parameters = parameters;
  }

  /** Whether an attribute can be searched; letter case makes no odds. */
  public static boolean knows(String attribute) {
    return COLUMNS.containsKey(attribute.toLowerCase(Locale.ROOT));
  }

  /**
   * @param operator one of =, &lt;&gt;, &gt;, &gt;=, &lt;, &lt;=, like
   */
  public static PeopleFilter compare(String attribute, String operator, Object value) {
    return new PeopleFilter("%s %s ?".formatted(column(attribute), operator), List.of(value));
  }

  public static PeopleFilter present(String attribute) {
    return new PeopleFilter(column(attribute) + " is not null", List.of());
  }

  public PeopleFilter and(PeopleFilter other) {
    return joined("and", other);
  }

  public PeopleFilter or(PeopleFilter other) {
    return joined("or", other);
  }

  public PeopleFilter not() {
    return new PeopleFilter("not (" + condition + ")", parameters);
  }

  /** HQL, its parameters named p0, p1 … in their order. */
  String condition() {
    var numbered = new StringBuilder("(");
    var parts = condition.split("\\?", -1);
    for (int i = 0; i < parts.length; i++) {
      numbered.append(parts[i]).append(i < parts.length - 1 ? ":p" + i : ")");
    }
    return numbered.toString();
  }

  Map<String, Object> parameters() {
    var named = new HashMap<String, Object>();
    for (int i = 0; i < parameters.size(); i++) {
      named.put("p" + i, parameters.get(i));
    }
    return named;
  }

  private PeopleFilter joined(String word, PeopleFilter other) {
    var both = new ArrayList<>(parameters);
    both.addAll(other.parameters);
    return new PeopleFilter("(%s) %s (%s)".formatted(condition, word, other.condition), both);
  }

  private static String column(String attribute) {
    return COLUMNS.get(attribute.toLowerCase(Locale.ROOT));
  }
}
