package ebb.core.rule;

import java.util.List;
import java.util.Set;
import java.util.SortedMap;
import java.util.stream.Collectors;

/**
 * What each application should hold for a person.
 *
 * @param accounts by application; one that is missing is one the person is not entitled to, unless
 *     that is unclear
 * @param unclear what could not be computed, by rule and field
 */
public record Desired(SortedMap<String, DesiredAccount> accounts, List<Unclear> unclear) {
  /** Whether nothing entitles the person to the application, as far as can be said. */
  public boolean isWithout(String application) {
    return !accounts.containsKey(application) && !leftAlone().contains(application);
  }

  /** Applications of which nothing can be said: not even that they should hold nothing. */
  public Set<String> leftAlone() {
    return unclear.stream()
        .map(Unclear::application)
        .filter(application -> !accounts.containsKey(application))
        .collect(Collectors.toSet());
  }
}
