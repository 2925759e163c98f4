package ebb.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.Test;

public class RuleEditTest {
  private static Rule rule(String name, String condition) {
    return new Rule(name, "directory", condition, null, null, null, null, 0, null, null, null);
  }

  private static RuleEdit edit(String name, Rule rule) {
    return new RuleEdit(name, rule, 1, null);
  }

  @Test
  public void editsPutRulesInPlaceOfThoseOfTheirNameAddThemAndTakeThemAway() {
    var rules = List.of(rule("a", "true"), rule("b", "true"));

    assertThat(
            RuleEdit.in(
                rules,
                List.of(
                    edit("a", rule("a", "false")), edit("b", null), edit("c", rule("c", "true")))))
        .containsExactly(rule("a", "false"), rule("c", "true"));
    assertThat(RuleEdit.in(rules, List.of())).isEqualTo(rules);
  }
}
