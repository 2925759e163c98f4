package ebb.service.rules;

import ebb.api.ConditionPart;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Condition;
import ebb.core.rule.Condition.All;
import ebb.core.rule.Condition.Any;
import ebb.core.rule.Condition.Comparison;
import ebb.core.rule.Condition.Is;
import ebb.core.rule.Condition.Not;
import ebb.core.rule.Condition.Other;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;

/** Conditions as they are built in a page, and read from one. */
final class ConditionViews {
  static ConditionPart view(Condition condition) {
    return switch (condition) {
      case All(var of) -> parts("all", of);
      case Any(var of) -> parts("any", of);
      case Not(var of) -> parts("not", List.of(of));
      case Is(var attribute, var comparison, var values) ->
          new ConditionPart("is", List.of(), attribute, comparison.word(), values, null);
      case Other(var cel) -> new ConditionPart("other", List.of(), null, null, List.of(), cel);
    };
  }

  private static ConditionPart parts(String kind, List<Condition> of) {
    return new ConditionPart(
        kind, of.stream().map(ConditionViews::view).toList(), null, null, List.of(), null);
  }

  /**
   * @throws Refusal if a part is of no kind there is, or lacks something
   */
  static Condition read(ConditionPart part) {
    return switch (part.kind()) {
      case "all" -> new All(all(part));
      case "any" -> new Any(all(part));
      case "not" ->
          new Not(all(part).stream().findFirst().orElseThrow(() -> invalid("not, of nothing")));
      case "is" -> new Is(given(part.attribute(), "an attribute"), comparison(part), values(part));
      case "other" -> new Other(given(part.cel(), "CEL"));
      case null, default -> throw invalid(String.valueOf(part.kind()));
    };
  }

  private static List<Condition> all(ConditionPart part) {
    return part.of() == null ? List.of() : part.of().stream().map(ConditionViews::read).toList();
  }

  private static List<String> values(ConditionPart part) {
    return part.values() == null ? List.of() : part.values();
  }

  private static Comparison comparison(ConditionPart part) {
    return Arrays.stream(Comparison.values())
        .filter(one -> one.word().equals(part.comparison()))
        .findFirst()
        .orElseThrow(() -> invalid("comparison " + part.comparison()));
  }

  private static String given(String text, String what) {
    if (text == null || text.isBlank()) {
      throw invalid("without " + what);
    }
    return text;
  }

  private static Refusal invalid(String what) {
    return Refusal.invalid(
        new Problem(
            "condition-part-invalid",
            "The condition has a part that is none: %s.".formatted(what),
            "A part is all, any, not, is or other; a comparison is %s."
                .formatted(
                    Arrays.stream(Comparison.values())
                        .map(Comparison::word)
                        .collect(Collectors.joining(", "))),
            "Correct it, or give the condition as CEL.",
            Where.field("built")));
  }

  private ConditionViews() {}
}
