package ebb.service.changes;

import ebb.core.change.ChangeKind;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.compare.Edit;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * What steps amount to, however they are cut: an account created whole is the same as one created
 * without its manager and then given one.
 */
final class Shape {
  static Set<Object> of(Collection<Draft> drafts) {
    var shape = new HashSet<Object>();
    for (var draft : drafts) {
      var step = draft.step();
      step.edits().forEach((attribute, edit) -> shape.add(value(draft, attribute, edit)));
      if (step.kind() != ChangeKind.UPDATE) {
        shape.add(
            draft.application() + " " + step.kind() + " " + step.group() + " " + step.usable());
      }
    }
    return shape;
  }

  /** What is in these steps that was not in those before. */
  static List<Draft> minus(Collection<Draft> now, Collection<Draft> before) {
    var had =
        before.stream()
            .collect(
                Collectors.groupingBy(
                    Draft::person, Collectors.collectingAndThen(Collectors.toList(), Shape::of)));
    return now.stream()
        .flatMap(draft -> minus(draft, had.getOrDefault(draft.person(), Set.of())).stream())
        .toList();
  }

  private static Optional<Draft> minus(Draft draft, Set<Object> had) {
    if (had.containsAll(of(List.of(draft)))) {
      return Optional.empty();
    }
    if (draft.step().kind() != ChangeKind.UPDATE) {
      return Optional.of(draft);
    }
    var step = draft.step();
    var edits = new TreeMap<>(step.edits());
    edits.entrySet().removeIf(edit -> had.contains(value(draft, edit.getKey(), edit.getValue())));
    return Optional.of(
        new Draft(
            draft.person(),
            draft.application(),
            draft.account(),
            new Step(step.kind(), edits, step.group(), step.ground(), step.usable())));
  }

  private static Object value(Draft draft, String attribute, Edit edit) {
    return Set.of(draft.application() + "." + attribute, edit.after());
  }

  private Shape() {}
}
