package ebb.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.problem.Where;
import ebb.core.rule.Condition.All;
import ebb.core.rule.Condition.Any;
import ebb.core.rule.Condition.Comparison;
import ebb.core.rule.Condition.Is;
import ebb.core.rule.Condition.Not;
import ebb.core.rule.Condition.Other;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ConditionsTest {
  static final List<String> ATTRIBUTES =
      List.of("department", "name.familyName", "userType", "startDate", "shoe size");
  static final List<String> VALUES =
      List.of("Deck", "", "O\"Hara", "back\\slash", "two\nlines", "Åsa", "𐐷", "]");

  private final Expressions expressions = new Expressions();

  private Condition read(String cel) {
    return expressions.condition(cel, Where.field("condition"));
  }

  @Test
  public void whatWasBuiltIsReadAgainAsItWasBuilt() {
    var first = Chance.seed(0);
    for (var seed = first; seed < first + 500; seed++) {
      var condition = some(new Random(seed), 3);
      assertThat(read(Conditions.cel(condition)))
          .as("seed %d: %s", seed, Conditions.cel(condition))
          .isEqualTo(condition);
    }
  }

  /**
   * Without parts that CEL cannot tell from simpler ones: one part, or the same within the same.
   */
  static Condition some(Random random, int depth) {
    var kind = depth == 0 ? 3 : random.nextInt(5);
    return switch (kind) {
      case 0 -> new All(several(random, depth, All.class));
      case 1 -> new Any(several(random, depth, Any.class));
      case 2 -> new Not(some(random, depth - 1));
      default -> compared(random);
    };
  }

  private static List<Condition> several(Random random, int depth, Class<?> not) {
    return IntStream.range(0, 2 + random.nextInt(3))
        .mapToObj(
            _ -> {
              var one = some(random, depth - 1);
              return not.isInstance(one) ? compared(random) : one;
            })
        .toList();
  }

  private static Condition compared(Random random) {
    var comparison = Comparison.values()[random.nextInt(Comparison.values().length)];
    var count =
        switch (comparison) {
          case SET -> 0;
          case ONE_OF -> 1 + random.nextInt(3);
          default -> 1;
        };
    // has() takes names only.
    var attribute =
        ATTRIBUTES.get(random.nextInt(comparison == Comparison.SET ? 4 : ATTRIBUTES.size()));
    return new Is(
        attribute,
        comparison,
        IntStream.range(0, count)
            .mapToObj(_ -> VALUES.get(random.nextInt(VALUES.size())))
            .toList());
  }

  @DataProvider
  public Object[][] sentences() {
    return new Object[][] {
      {"true", "everybody"},
      {"person.department == \"Deck\"", "everyone whose unit is Deck"},
      {
        "person.department in ['Deck', 'Engine'] && person.userType != 'guest'",
        "everyone whose unit is one of Deck or Engine, and whose kind is not guest"
      },
      {
        "has(person.title) && !(person.name.familyName.startsWith('X'))",
        "everyone whose job is known, and for whom it is not so that family name begins with X"
      },
      {
        "person.userType == 'a' || (person.startDate >= '2026-01-01' && has(person.manager))",
        "everyone whose kind is a, or (whose first day is at or after 2026-01-01, and whose"
            + " manager is known)"
      },
      {"size(person.title) > 3", "everyone for whom size(person.title) > 3"},
    };
  }

  @Test(dataProvider = "sentences")
  public void aConditionReadsAsASentence(String cel, String sentence) {
    assertThat(Conditions.sentence(read(cel))).isEqualTo(sentence);
  }

  @Test
  public void whatCannotBeBuiltStaysWhollyAsItIsWritten() {
    var cel = "person.department == 'Deck' && size(person.title) > 3";
    assertThat(read(cel)).isEqualTo(new Other(cel));
    assertThat(Conditions.cel(read(cel))).isEqualTo(cel);
  }

  @Test
  public void aConditionOfNothingHoldsForEverybodyOrNobody() {
    assertThat(Conditions.cel(new All(List.of()))).isEqualTo("true");
    assertThat(Conditions.cel(new Any(List.of()))).isEqualTo("false");
  }

  @Test
  public void theAttributesAnExpressionReadsAreFoundWhereverTheyStand() {
    assertThat(
            expressions.reads(
                "['a', person.title].exists(t, t == manager.name.familyName)"
                    + " ? person['shoe size'] : login + person.emails.work"))
        .containsExactly("emails.work", "name.familyName", "shoe size", "title");
  }
}
