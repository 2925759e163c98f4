package ebb.core.rule;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.ast.CelConstant;
import dev.cel.common.ast.CelExpr;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Stream;

/** Which attributes an expression reads: those it takes from person and manager by their names. */
final class Reads {
  private static final Set<String> PEOPLE = Set.of("person", "manager");

  private final SortedSet<String> found = new TreeSet<>();

  static SortedSet<String> of(CelAbstractSyntaxTree tree) {
    var reads = new Reads();
    reads.look(tree.getExpr());
    return reads.found;
  }

  private void look(CelExpr expression) {
    var path = path(expression, PEOPLE);
    if (path.isPresent()) {
      if (!path.get().isEmpty()) {
        found.add(path.get());
      }
      return;
    }
    parts(expression).forEach(this::look);
  }

  private static List<CelExpr> parts(CelExpr expression) {
    return switch (expression.getKind()) {
      case SELECT -> List.of(expression.select().operand());
      case CALL -> {
        var all = new ArrayList<>(expression.call().args());
        expression.call().target().ifPresent(all::add);
        yield all;
      }
      case LIST -> expression.list().elements();
      case MAP ->
          expression.map().entries().stream()
              .flatMap(entry -> Stream.of(entry.key(), entry.value()))
              .toList();
      case COMPREHENSION -> {
        var loop = expression.comprehension();
        yield List.of(
            loop.iterRange(),
            loop.accuInit(),
            loop.loopCondition(),
            loop.loopStep(),
            loop.result());
      }
      case NOT_SET, CONSTANT, IDENT, STRUCT -> List.of();
    };
  }

  /**
   * name.familyName of person.name.familyName; empty text for the person as such, nothing for what
   * is no attribute.
   *
   * @param of the variables that are people
   */
  static Optional<String> path(CelExpr expression, Set<String> of) {
    return switch (expression.getKind()) {
      case IDENT -> Optional.of("").filter(_ -> of.contains(expression.ident().name()));
      case SELECT ->
          path(expression.select().operand(), of)
              .map(above -> under(above, expression.select().field()));
      case CALL -> index(expression.call(), of);
      default -> Optional.empty();
    };
  }

  private static Optional<String> index(CelExpr.CelCall call, Set<String> of) {
    if (!call.function().equals("_[_]")) {
      return Optional.empty();
    }
    var name = call.args().getLast();
    return name.getKind() == CelExpr.ExprKind.Kind.CONSTANT
            && name.constant().getKind() == CelConstant.Kind.STRING_VALUE
        ? path(call.args().getFirst(), of).map(above -> under(above, name.constant().stringValue()))
        : Optional.empty();
  }

  private static String under(String above, String name) {
    return above.isEmpty() ? name : above + "." + name;
  }
}
