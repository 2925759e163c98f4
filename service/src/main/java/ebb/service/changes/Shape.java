package ebb.service.changes;

import ebb.core.change.ChangeKind;
import ebb.core.change.Needs.Draft;
import java.util.Collection;
import java.util.HashSet;
import java.util.Set;

/**
 * What steps amount to, however they are cut: an account created whole is the same as one created
 * without its manager and then given one.
 */
final class Shape {
  static Set<Object> of(Collection<Draft> drafts) {
    var shape = new HashSet<Object>();
    for (var draft : drafts) {
      var step = draft.step();
      step.edits()
          .forEach(
              (attribute, edit) ->
                  shape.add(Set.of(draft.application() + "." + attribute, edit.after())));
      if (step.kind() != ChangeKind.UPDATE) {
        shape.add(
            draft.application() + " " + step.kind() + " " + step.group() + " " + step.usable());
      }
    }
    return shape;
  }

  private Shape() {}
}
