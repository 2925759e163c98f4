package ebb.service.push;

import com.fasterxml.jackson.databind.node.ObjectNode;
import ebb.core.imports.Layout;
import ebb.core.imports.Row;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.store.push.Resource;
import java.util.List;

/**
 * Whoever pushes to a source, and what is known of how it is read.
 *
 * @param groupsIn the application in which its groups are; empty if it may send none
 * @param layout checks what is said of people, as it will be checked when it is delivered
 */
record Sender(String source, String groupsIn, PushSchemas schemas, Layout layout) {
  /** It may be answered, and is asked about when it is delivered. */
  private static final String CODE_UNKNOWN = "code-unknown";

  boolean mayHave(Resource.Kind kind) {
    return kind == Resource.Kind.USER || !groupsIn.isEmpty();
  }

  /** What would have a person refused, whoever else is there. */
  List<Problem> problems(Resource person, ObjectNode body) {
    if (PushedColumns.isGone(person, body)) {
      return List.of();
    }
    var row = PushedColumns.row(layout.headings(), person, body, manager -> manager);
    return layout.check(new Row(1, row)).problems().stream()
        .filter(problem -> !problem.code().equals(CODE_UNKNOWN))
        .map(problem -> problem.at(Where.field(problem.where().column())))
        .toList();
  }
}
