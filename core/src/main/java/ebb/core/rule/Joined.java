package ebb.core.rule;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.ast.CelConstant;
import dev.cel.common.ast.CelExpr;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * An expression that only names texts and puts them together, as most mappings do. It gives the
 * same as the general evaluation, at a tenth of its cost.
 */
final class Joined {
  private static final String PLUS = "_+_";

  private sealed interface Part {
    record Text(String text) implements Part {}

    record Path(List<String> names) implements Part {}
  }

  /** What came of it; where something named is no text, the general evaluation must say. */
  sealed interface Outcome {
    record Text(String text) implements Outcome {}

    record Missing() implements Outcome {}

    record NotText() implements Outcome {}
  }

  private static final Outcome MISSING = new Outcome.Missing();
  private static final Outcome NOT_TEXT = new Outcome.NotText();

  private final List<Part> parts;

  private Joined(List<Part> parts) {
    this.parts = parts;
  }

  /** Empty if the expression does anything else. */
  static Optional<Joined> of(CelAbstractSyntaxTree tree) {
    var parts = new ArrayList<Part>();
    return collect(tree.getExpr(), parts) ? Optional.of(new Joined(parts)) : Optional.empty();
  }

  private static boolean collect(CelExpr expression, List<Part> parts) {
    return switch (expression.exprKind().getKind()) {
      case CONSTANT -> constant(expression.constant(), parts);
      case IDENT, SELECT -> path(expression, parts);
      case CALL ->
          expression.call().function().equals(PLUS)
              && expression.call().args().stream().allMatch(one -> collect(one, parts));
      default -> false;
    };
  }

  private static boolean constant(CelConstant constant, List<Part> parts) {
    return constant.getKind() == CelConstant.Kind.STRING_VALUE
        && parts.add(new Part.Text(constant.stringValue()));
  }

  private static boolean path(CelExpr expression, List<Part> parts) {
    var names = new ArrayDeque<String>();
    var at = expression;
    while (at.exprKind().getKind() == CelExpr.ExprKind.Kind.SELECT) {
      if (at.select().testOnly()) {
        return false;
      }
      names.addFirst(at.select().field());
      at = at.select().operand();
    }
    if (at.exprKind().getKind() != CelExpr.ExprKind.Kind.IDENT) {
      return false;
    }
    names.addFirst(at.ident().name());
    return parts.add(new Part.Path(List.copyOf(names)));
  }

  /** The names behind this one, if there is nothing else in it; empty otherwise. */
  Optional<String> pathIn(String first) {
    return parts.size() == 1
            && parts.getFirst() instanceof Part.Path(var names)
            && names.size() > 1
            && names.getFirst().equals(first)
        ? Optional.of(String.join(".", names.subList(1, names.size())))
        : Optional.empty();
  }

  Outcome of(Map<String, ?> variables) {
    if (parts.size() == 1) {
      return outcome(value(parts.getFirst(), variables));
    }
    var joined = new StringBuilder();
    for (var part : parts) {
      switch (outcome(value(part, variables))) {
        case Outcome.Text(var text) -> joined.append(text);
        case Outcome other -> {
          return other;
        }
      }
    }
    return new Outcome.Text(joined.toString());
  }

  private static Outcome outcome(Object value) {
    return switch (value) {
      case null -> MISSING;
      case String text -> new Outcome.Text(text);
      default -> NOT_TEXT;
    };
  }

  private static Object value(Part part, Map<String, ?> variables) {
    return switch (part) {
      case Part.Text(var text) -> text;
      case Part.Path(var names) -> {
        Object at = variables;
        for (var name : names) {
          if (!(at instanceof Map<?, ?> map)) {
            // Something was named within a text: the general evaluation says what that is.
            yield NOT_TEXT;
          }
          at = map.get(name);
          if (at == null) {
            yield null;
          }
        }
        yield at;
      }
    };
  }
}
