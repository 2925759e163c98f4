package ebb.core.rule;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.ast.CelConstant;
import dev.cel.common.ast.CelExpr;
import dev.cel.common.ast.CelExpr.CelCall;
import dev.cel.common.ast.CelExpr.ExprKind.Kind;
import ebb.core.rule.Condition.All;
import ebb.core.rule.Condition.Any;
import ebb.core.rule.Condition.Comparison;
import ebb.core.rule.Condition.Is;
import ebb.core.rule.Condition.Not;
import ebb.core.rule.Condition.Other;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Turns conditions that were built into CEL, CEL into conditions, and both into a sentence. */
public final class Conditions {
  private static final String PERSON = "person";
  private static final Set<String> OWN = Set.of(PERSON);
  private static final Pattern NAME = Pattern.compile("[_a-zA-Z][_a-zA-Z0-9]*");

  /** What people call attributes whose standard name says something else. */
  private static final Map<String, String> WORDS =
      Map.of(
          "title", "job",
          "department", "unit",
          "userType", "kind",
          "employeeNumber", "staff number",
          "startDate", "first day",
          "endDate", "last day",
          "location", "place");

  private static final Map<Comparison, String> FUNCTIONS =
      Map.of(
          Comparison.BEGINS, "startsWith",
          Comparison.ENDS, "endsWith",
          Comparison.CONTAINS, "contains");

  private static final Map<Comparison, String> OPERATORS =
      Map.of(
          Comparison.EQUAL, "==",
          Comparison.UNEQUAL, "!=",
          Comparison.AT_LEAST, ">=",
          Comparison.BEFORE, "<");

  /** The CEL of a condition. */
  public static String cel(Condition condition) {
    return switch (condition) {
      case All(var of) when of.isEmpty() -> "true";
      case Any(var of) when of.isEmpty() -> "false";
      case All(var of) -> joined(of, " && ");
      case Any(var of) -> joined(of, " || ");
      case Not(var of) -> "!(" + cel(of) + ")";
      case Is is -> cel(is);
      case Other(var cel) -> cel;
    };
  }

  private static String joined(List<Condition> of, String by) {
    return of.stream()
        .map(one -> of.size() > 1 && isJoined(one) ? "(" + cel(one) + ")" : cel(one))
        .collect(Collectors.joining(by));
  }

  private static boolean isJoined(Condition one) {
    return switch (one) {
      case All(var of) -> of.size() > 1;
      case Any(var of) -> of.size() > 1;
      case Other _ -> true;
      case Not _, Is _ -> false;
    };
  }

  private static String cel(Is is) {
    var path = path(is.attribute());
    return switch (is.comparison()) {
      case SET -> "has(" + path + ")";
      case ONE_OF ->
          path
              + " in "
              + is.values().stream()
                  .map(Conditions::quoted)
                  .collect(Collectors.joining(", ", "[", "]"));
      case BEGINS, ENDS, CONTAINS ->
          "%s.%s(%s)".formatted(path, FUNCTIONS.get(is.comparison()), quoted(value(is)));
      case EQUAL, UNEQUAL, AT_LEAST, BEFORE ->
          "%s %s %s".formatted(path, OPERATORS.get(is.comparison()), quoted(value(is)));
    };
  }

  private static String value(Is is) {
    return is.values().isEmpty() ? "" : is.values().getFirst();
  }

  private static String path(String attribute) {
    var path = new StringBuilder(PERSON);
    for (var part : attribute.split("\\.", -1)) {
      if (NAME.matcher(part).matches()) {
        path.append('.').append(part);
      } else {
        path.append('[').append(quoted(part)).append(']');
      }
    }
    return path.toString();
  }

  private static String quoted(String text) {
    var quoted = new StringBuilder("\"");
    text.codePoints()
        .forEach(
            point -> {
              switch (point) {
                case '"' -> quoted.append("\\\"");
                case '\\' -> quoted.append("\\\\");
                case '\n' -> quoted.append("\\n");
                case '\r' -> quoted.append("\\r");
                case '\t' -> quoted.append("\\t");
                default -> quoted.appendCodePoint(point);
              }
            });
    return quoted.append('"').toString();
  }

  /** The condition that CEL says; all of it as it is written if a part of it cannot be built. */
  static Condition of(CelAbstractSyntaxTree tree, String written) {
    return Reader.condition(tree.getExpr()).orElseGet(() -> new Other(written));
  }

  /** Empty means: cannot be built. */
  private static final class Reader {
    static Optional<Condition> condition(CelExpr expression) {
      return switch (expression.getKind()) {
        case CONSTANT -> isTrue(expression) ? Optional.of(new All(List.of())) : Optional.empty();
        case SELECT ->
            expression.select().testOnly()
                ? path(expression).map(path -> new Is(path, Comparison.SET, List.of()))
                : Optional.empty();
        case CALL -> call(expression.call());
        default -> Optional.empty();
      };
    }

    private static boolean isTrue(CelExpr expression) {
      var constant = expression.constant();
      return constant.getKind() == CelConstant.Kind.BOOLEAN_VALUE && constant.booleanValue();
    }

    private static Optional<Condition> call(CelCall call) {
      return switch (call.function()) {
        case "_&&_" -> parts(call).map(All::new);
        case "_||_" -> parts(call).map(Any::new);
        case "!_" -> condition(call.args().getFirst()).map(Not::new);
        default -> compared(call);
      };
    }

    /** (a && b) && c has three parts. */
    private static Optional<List<Condition>> parts(CelCall call) {
      var all = new ArrayList<Condition>();
      for (var one : call.args()) {
        var isSame = one.getKind() == Kind.CALL && one.call().function().equals(call.function());
        var found = isSame ? parts(one.call()) : condition(one).map(List::of);
        if (found.isEmpty()) {
          return Optional.empty();
        }
        all.addAll(found.get());
      }
      return Optional.of(all);
    }

    private static Optional<Condition> compared(CelCall call) {
      return switch (call.function()) {
        case "_==_" -> operator(call, Comparison.EQUAL);
        case "_!=_" -> operator(call, Comparison.UNEQUAL);
        case "_>=_" -> operator(call, Comparison.AT_LEAST);
        case "_<_" -> operator(call, Comparison.BEFORE);
        case "@in" -> among(call);
        case "startsWith" -> function(call, Comparison.BEGINS);
        case "endsWith" -> function(call, Comparison.ENDS);
        case "contains" -> function(call, Comparison.CONTAINS);
        default -> Optional.empty();
      };
    }

    private static Optional<Condition> operator(CelCall call, Comparison comparison) {
      return is(path(call.args().getFirst()), comparison, text(call.args().getLast()));
    }

    private static Optional<Condition> function(CelCall call, Comparison comparison) {
      return call.args().size() != 1
          ? Optional.empty()
          : is(call.target().flatMap(Reader::path), comparison, text(call.args().getFirst()));
    }

    private static Optional<Condition> is(
        Optional<String> path, Comparison comparison, Optional<String> value) {
      return path.flatMap(
          attribute -> value.map(text -> new Is(attribute, comparison, List.of(text))));
    }

    private static Optional<Condition> among(CelCall call) {
      var list = call.args().getLast();
      if (list.getKind() != Kind.LIST) {
        return Optional.empty();
      }
      var values = list.list().elements().stream().map(Reader::text).toList();
      return values.stream().allMatch(Optional::isPresent)
          ? path(call.args().getFirst())
              .map(
                  attribute ->
                      new Is(
                          attribute,
                          Comparison.ONE_OF,
                          values.stream().map(Optional::orElseThrow).toList()))
          : Optional.empty();
    }

    private static Optional<String> text(CelExpr expression) {
      return expression.getKind() == Kind.CONSTANT
              && expression.constant().getKind() == CelConstant.Kind.STRING_VALUE
          ? Optional.of(expression.constant().stringValue())
          : Optional.empty();
    }

    private static Optional<String> path(CelExpr expression) {
      return Reads.path(expression, OWN).filter(path -> !path.isEmpty());
    }

    private Reader() {}
  }

  /** A condition as a sentence: everyone whose department is Deck. */
  public static String sentence(Condition condition) {
    return condition instanceof All(var of) && of.isEmpty()
        ? "everybody"
        : "everyone " + clause(condition);
  }

  private static String clause(Condition condition) {
    return switch (condition) {
      case All(var of) -> of.isEmpty() ? "who is anybody" : clauses(of, ", and ");
      case Any(var of) -> of.isEmpty() ? "who is nobody" : clauses(of, ", or ");
      case Not(Is is) -> "for whom it is not so that " + said(is);
      case Not(var of) -> "but not (" + clause(of) + ")";
      case Is is -> "whose " + said(is);
      case Other(var cel) -> "for whom " + cel;
    };
  }

  private static String clauses(List<Condition> of, String by) {
    return of.stream()
        .map(one -> isJoined(one) ? "(" + clause(one) + ")" : clause(one))
        .collect(Collectors.joining(by));
  }

  private static String said(Is is) {
    return "%s %s%s".formatted(words(is.attribute()), is.comparison().words(), values(is));
  }

  /** What is compared with, after a blank; empty if nothing is. */
  static String values(Is is) {
    return is.values().isEmpty()
        ? ""
        : is.values().stream()
            .map(value -> value.isEmpty() ? "empty" : value)
            .collect(Collectors.joining(" or ", " ", ""));
  }

  /** Whether a comparison holds for a value that is known. */
  static boolean compares(Is is, String value) {
    return switch (is.comparison()) {
      case EQUAL -> value.equals(value(is));
      case UNEQUAL -> !value.equals(value(is));
      case ONE_OF -> is.values().contains(value);
      case BEGINS -> value.startsWith(value(is));
      case ENDS -> value.endsWith(value(is));
      case CONTAINS -> value.contains(value(is));
      case AT_LEAST -> value.compareTo(value(is)) >= 0;
      case BEFORE -> value.compareTo(value(is)) < 0;
      case SET -> true;
    };
  }

  /** name.familyName is the family name. */
  static String words(String attribute) {
    return WORDS.containsKey(attribute)
        ? WORDS.get(attribute)
        : attribute
            .replaceFirst("^name\\.", "")
            .replaceAll("(?<=[a-z])(?=[A-Z])", " ")
            .toLowerCase(Locale.ROOT);
  }

  private Conditions() {}
}
