package ebb.core.operator;

import ebb.core.person.Attributes;
import ebb.core.person.Person;
import java.util.Set;
import java.util.TreeSet;

/**
 * The people an operator answers for.
 *
 * @param units empty for all
 * @param kinds values of userType; empty for all
 */
public record Reach(Set<String> units, Set<String> kinds) {
  public static final Reach EVERYBODY = new Reach(Set.of(), Set.of());

  public Reach {
    units = Set.copyOf(units);
    kinds = Set.copyOf(kinds);
  }

  public boolean isEverybody() {
    return units.isEmpty() && kinds.isEmpty();
  }

  public boolean covers(Person person) {
    return covers(units, person.get(Attributes.DEPARTMENT).orElse(null))
        && covers(kinds, person.get(Attributes.USER_TYPE).orElse(null));
  }

  private static boolean covers(Set<String> allowed, String value) {
    return allowed.isEmpty() || (value != null && allowed.contains(value));
  }

  public String words() {
    return isEverybody()
        ? "everybody"
        : String.join(", ", new TreeSet<>(units))
            + (units.isEmpty() || kinds.isEmpty() ? "" : "; ")
            + String.join(", ", new TreeSet<>(kinds));
  }
}
