package ebb.store;

import ebb.core.operator.Reach;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.hibernate.query.SelectionQuery;

/**
 * Narrows a query to the people of a reach.
 *
 * @param within a condition in HQL that begins with " and"; empty for everybody
 */
public record ReachClause(String within, Map<String, Set<String>> parameters) {
  /**
   * @param column path to the number of the person
   */
  public static ReachClause on(String column, Reach reach) {
    return of(column + " in", reach);
  }

  /** The other way round: those who are not of the reach. Nobody, where that is everybody. */
  public static ReachClause beyond(String column, Reach reach) {
    return reach.isEverybody()
        ? new ReachClause(" and 1 = 0", Map.of())
        : of(column + " not in", reach);
  }

  private static ReachClause of(String start, Reach reach) {
    if (reach.isEverybody()) {
      return new ReachClause("", Map.of());
    }
    var conditions = new ArrayList<String>();
    var parameters = new HashMap<String, Set<String>>();
    if (!reach.units().isEmpty()) {
      conditions.add("reached.department in (:reachedUnits)");
      parameters.put("reachedUnits", reach.units());
    }
    if (!reach.kinds().isEmpty()) {
      conditions.add("reached.userType in (:reachedKinds)");
      parameters.put("reachedKinds", reach.kinds());
    }
    return new ReachClause(
        " and %s (select reached.id from PersonEntity reached where %s)"
            .formatted(start, String.join(" and ", conditions)),
        parameters);
  }

  public <T> SelectionQuery<T> fill(SelectionQuery<T> query) {
    parameters.forEach(query::setParameterList);
    return query;
  }
}
