package ebb.core.rule;

import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.rule.Condition.All;
import ebb.core.rule.Condition.Any;
import ebb.core.rule.Condition.Is;
import ebb.core.rule.Condition.Not;
import ebb.core.rule.Condition.Other;
import java.util.List;
import java.util.stream.Collectors;

/**
 * What is missing for a condition to hold for somebody, part by part. As in CEL, nothing can be
 * said of an attribute that is missing: it is neither so nor not so, unless another part decides
 * it.
 */
public final class WhyNot {
  private enum Truth {
    HOLDS,
    FAILS,
    UNKNOWN;

    Truth not() {
      return switch (this) {
        case HOLDS -> FAILS;
        case FAILS -> HOLDS;
        case UNKNOWN -> UNKNOWN;
      };
    }
  }

  private final Person person;

  private WhyNot(Person person) {
    this.person = person;
  }

  /**
   * As in "unit is Catering, and must be Deck".
   *
   * @return empty if it holds, or cannot be taken apart
   */
  public static List<String> of(Condition condition, Person person) {
    return new WhyNot(person).missing(condition, true);
  }

  /**
   * @param wanted whether it must hold, or fail
   */
  private List<String> missing(Condition condition, boolean wanted) {
    if (truth(condition) == (wanted ? Truth.HOLDS : Truth.FAILS)) {
      return List.of();
    }
    return switch (condition) {
      case All(var of) -> wanted ? each(of, true) : any(of, false);
      case Any(var of) -> wanted ? any(of, true) : each(of, false);
      case Not(var of) -> missing(of, !wanted);
      case Is is -> List.of(said(is, wanted));
      case Other _ -> List.of();
    };
  }

  private List<String> each(List<Condition> of, boolean wanted) {
    return of.stream().flatMap(one -> missing(one, wanted).stream()).toList();
  }

  /** One of them would be enough. */
  private List<String> any(List<Condition> of, boolean wanted) {
    var ways =
        of.stream()
            .map(one -> String.join(" and ", missing(one, wanted)))
            .collect(Collectors.joining("; or "));
    return ways.isEmpty() ? List.of() : List.of(of.size() == 1 ? ways : "either " + ways);
  }

  private Truth truth(Condition condition) {
    return switch (condition) {
      case All(var of) -> decided(of, Truth.FAILS, Truth.HOLDS);
      case Any(var of) -> decided(of, Truth.HOLDS, Truth.FAILS);
      case Not(var of) -> truth(of).not();
      case Is is -> truth(is);
      case Other _ -> Truth.UNKNOWN;
    };
  }

  /**
   * @param deciding one part that is so decides it for all
   * @param otherwise if no part is, and all are known
   */
  private Truth decided(List<Condition> of, Truth deciding, Truth otherwise) {
    var all = of.stream().map(this::truth).collect(Collectors.toSet());
    return all.contains(deciding)
        ? deciding
        : all.contains(Truth.UNKNOWN) ? Truth.UNKNOWN : otherwise;
  }

  private Truth truth(Is is) {
    var value = value(is.attribute());
    if (is.comparison() == Condition.Comparison.SET) {
      return value != null ? Truth.HOLDS : hasBranch(is.attribute()) ? Truth.FAILS : Truth.UNKNOWN;
    }
    return value == null
        ? Truth.UNKNOWN
        : Conditions.compares(is, value) ? Truth.HOLDS : Truth.FAILS;
  }

  /** Of name.familyName nothing can be said where nothing of a name is known. */
  private boolean hasBranch(String attribute) {
    var dot = attribute.lastIndexOf('.');
    return dot < 0
        || person.attributes().keySet().stream()
            .anyMatch(name -> name.startsWith(attribute.substring(0, dot + 1)));
  }

  private String value(String attribute) {
    return attribute.equals(Attributes.DISPLAY_NAME)
        ? person.displayName()
        : person.get(attribute).orElse(null);
  }

  private String said(Is is, boolean wanted) {
    var name = Conditions.words(is.attribute());
    var value = value(is.attribute());
    var has = value == null ? "is not known" : value.isEmpty() ? "is empty" : "is " + value;
    return "%s %s, and must %s".formatted(name, has, must(is, wanted));
  }

  private static String must(Is is, boolean wanted) {
    var values = Conditions.values(is);
    return switch (is.comparison()) {
      case EQUAL -> not(wanted, "be" + values);
      case UNEQUAL -> not(!wanted, "be" + values);
      case ONE_OF -> wanted ? "be one of" + values : "be none of" + values;
      case BEGINS -> not(wanted, "begin with" + values);
      case ENDS -> not(wanted, "end with" + values);
      case CONTAINS -> not(wanted, "contain" + values);
      case AT_LEAST -> not(wanted, "be at or after" + values);
      case BEFORE -> not(wanted, "be before" + values);
      case SET -> not(wanted, "be known");
    };
  }

  private static String not(boolean wanted, String words) {
    return wanted ? words : "not " + words;
  }
}
