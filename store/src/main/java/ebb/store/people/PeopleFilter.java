package ebb.store.people;

import ebb.core.operator.Reach;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * A condition over people that the database can answer. Built from parts that only name columns
 * known here; every value is a parameter.
 */
public final class PeopleFilter {
  public static final PeopleFilter EVERYONE = new PeopleFilter("1 = 1", List.of(), false);

  private static final String DEPARTMENT = "p.department";

  /** Attribute to column: what can be searched. */
  private static final Map<String, String> COLUMNS =
      Map.of(
          "displayname", "p.displayName",
          "name.familyname", "p.sortName",
          "username", "p.login",
          "department", DEPARTMENT,
          "usertype", "p.userType",
          "employeenumber", "p.employeeNumber",
          "startdate", "p.startDate",
          "enddate", "p.endDate",
          "manager", "p.managerId",
          "id", "p.id");

  private final String condition;
  private final List<Object> parameters;
  private final boolean isOneDepartment;

  private PeopleFilter(String condition, List<Object> parameters, boolean isOneDepartment) {
    this.condition = condition;
    this.parameters = parameters;
    this.isOneDepartment = isOneDepartment;
  }

  /** Whether an attribute can be searched; letter case makes no odds. */
  public static boolean knows(String attribute) {
    return COLUMNS.containsKey(attribute.toLowerCase(Locale.ROOT));
  }

  /**
   * @param operator one of =, &lt;&gt;, &gt;, &gt;=, &lt;, &lt;=, like
   */
  public static PeopleFilter compare(String attribute, String operator, Object value) {
    var column = column(attribute);
    return new PeopleFilter(
        "%s %s ?".formatted(column, operator),
        List.of(value),
        column.equals(DEPARTMENT) && operator.equals("="));
  }

  /** As {@link #compare}, over an own attribute; its values are compared folded. */
  public static PeopleFilter compareOwn(String attribute, String operator, String value) {
    return new PeopleFilter(
        "p.id in (select v.id.personId from PersonValueEntity v where v.id.name = ? and v.folded %s ?)"
            .formatted(operator),
        List.of(attribute, folded(value)),
        false);
  }

  /** People who have a value for an own attribute. */
  public static PeopleFilter presentOwn(String attribute) {
    return new PeopleFilter(
        "p.id in (select v.id.personId from PersonValueEntity v where v.id.name = ?)",
        List.of(attribute),
        false);
  }

  /** How values of own attributes are compared: letter case makes no odds. */
  static String folded(String value) {
    return value.toLowerCase(Locale.ROOT);
  }

  public static PeopleFilter present(String attribute) {
    return new PeopleFilter(column(attribute) + " is not null", List.of(), false);
  }

  public static PeopleFilter absent(String attribute) {
    return new PeopleFilter(column(attribute) + " is null", List.of(), false);
  }

  /** Values that begin with a text: a range, which an index serves, where a pattern is not. */
  public static PeopleFilter startsWith(String attribute, String text) {
    return compare(attribute, ">=", text).and(compare(attribute, "<", text + Character.MAX_VALUE));
  }

  /** People nobody asserts any more. */
  public static PeopleFilter unasserted() {
    return new PeopleFilter("p.attributes = '{}'", List.of(), false);
  }

  /** The people of a reach. */
  public static PeopleFilter within(Reach reach) {
    var units = oneOf("department", reach.units());
    return units.and(oneOf("userType", reach.kinds()));
  }

  private static PeopleFilter oneOf(String attribute, Set<String> values) {
    return values.stream()
        .sorted()
        .map(value -> compare(attribute, "=", value))
        .reduce(PeopleFilter::or)
        .orElse(EVERYONE);
  }

  /** Whether it leaves the people of one department at most: the order can then use its index. */
  boolean isOneDepartment() {
    return isOneDepartment;
  }

  public PeopleFilter and(PeopleFilter other) {
    if (this == EVERYONE) {
      return other;
    }
    if (other == EVERYONE) {
      return this;
    }
    return joined("and", other, isOneDepartment || other.isOneDepartment);
  }

  public PeopleFilter or(PeopleFilter other) {
    return joined("or", other, false);
  }

  public PeopleFilter not() {
    return new PeopleFilter("not (" + condition + ")", parameters, false);
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

  private PeopleFilter joined(String word, PeopleFilter other, boolean oneDepartment) {
    var both = new ArrayList<>(parameters);
    both.addAll(other.parameters);
    return new PeopleFilter(
        "(%s) %s (%s)".formatted(condition, word, other.condition), both, oneDepartment);
  }

  static String column(String attribute) {
    return COLUMNS.get(attribute.toLowerCase(Locale.ROOT));
  }
}
