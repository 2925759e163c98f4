package ebb.store.applications;

import ebb.core.application.Nesting;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.StringJoiner;
import org.hibernate.query.SelectionQuery;

/** The condition that a membership g is of a group, or of one that is within it there. */
record InGroup(String condition, Map<String, Object> parameters) {
  static InGroup of(Map<String, Nesting> nestings, String group) {
    var any = new StringJoiner(" or ", "(", ")").add("g.id.name = :group");
    var parameters = new HashMap<String, Object>(Map.of("group", group));
    for (var application : nestings.keySet()) {
      var within = nestings.get(application).within(group);
      within.remove(group);
      if (!within.isEmpty()) {
        var number = parameters.size();
        any.add("(g.application = :in%1$d and g.id.name in (:within%1$d))".formatted(number));
        parameters.put("in" + number, application);
        parameters.put("within" + number, within);
      }
    }
    return new InGroup(any.toString(), parameters);
  }

  <T> SelectionQuery<T> fill(SelectionQuery<T> query) {
    parameters.forEach(
        (name, value) -> {
          if (value instanceof Collection<?> several) {
            query.setParameterList(name, several);
          } else {
            query.setParameter(name, value);
          }
        });
    return query;
  }
}
