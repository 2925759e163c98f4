package ebb.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.assertj.core.api.Assertions;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ExpressionsTest {
  private static final List<String> OPERANDS =
      List.of(
          "login",
          "person.title",
          "person.name.givenName",
          "person.name",
          "person.nothing",
          "person.title.deeper",
          "manager.displayName",
          "aliases",
          "'@x.example'",
          "' '",
          "''",
          "\"tab\\t\"");

  private final Expressions expressions = new Expressions();

  @DataProvider
  Object[][] mappings() {
    return new Object[][] {
      {"login", List.of("ida.holm")},
      {"login + '@skerrow.example'", List.of("ida.holm@skerrow.example")},
      {"person.name.givenName + ' ' + person.title", List.of("Ida Mate")},
      {"person.name.givenName + ' ' + person.nothing", List.of()},
      {"'Reports to ' + manager.displayName", List.of()},
      {"aliases", List.of("i.holm", "ida")},
      {"aliases.map(name, name + '@x')", List.of("i.holm@x", "ida@x")},
      {"''", List.of()},
      {"person.title == 'Mate' ? 'yes' : 'no'", List.of("yes")},
    };
  }

  @Test(dataProvider = "mappings")
  public void aMappingGivesTextsOrNothing(String mapping, List<String> expected) {
    assertThat(expressions.texts(mapping, variables(false))).isEqualTo(expected);
  }

  @Test
  public void whatOnlyPutsTextsTogetherGivesTheSameAsTheGeneralEvaluation() {
    var random = Chance.random(11);
    int compared = 0;
    for (int run = 0; run < 400; run++) {
      var mapping =
          IntStream.rangeClosed(0, random.nextInt(4))
              .mapToObj(_ -> OPERANDS.get(random.nextInt(OPERANDS.size())))
              .collect(Collectors.joining(" + "));
      var variables = variables(random.nextBoolean());
      try {
        expressions.check(mapping, Where.field("x"));
      } catch (Refusal _) {
        // A list and a text cannot be put together: refused before it is ever evaluated.
        continue;
      }
      // A condition is nothing that only puts texts together.
      var general = "[true].all(one, one) ? (%s) : (%1$s)".formatted(mapping);

      Assertions.assertThat(outcome(mapping, variables))
          .as("%s with %s", mapping, variables)
          .isEqualTo(outcome(general, variables));
      compared += outcome(general, variables).isPresent() ? 1 : 0;
    }
    Assertions.assertThat(compared).as("mappings that give anything").isGreaterThan(50);
  }

  /** What comes of a mapping, or that it cannot be computed. */
  private Optional<List<String>> outcome(String mapping, Map<String, Object> variables) {
    try {
      return Optional.of(expressions.texts(mapping, variables));
    } catch (Expressions.Failed _) {
      return Optional.empty();
    }
  }

  @Test
  public void anExpressionOverARowReadsItsHeadings() {
    var row = Map.of("Given name", "Ida", "Family name", "Holm");

    assertThat(expressions.textOfRow("row['Given name'] + ' ' + row['Family name']", row))
        .contains("Ida Holm");
    assertThat(expressions.textOfRow("row['Given name'].upperAscii()", row)).contains("IDA");
    assertThat(expressions.textOfRow("row['Nickname']", row)).isEmpty();
    assertThat(expressions.problemOfRow("row.", Where.field("x")).orElseThrow().why())
        .contains("row.");
  }

  private static Map<String, Object> variables(boolean hasManager) {
    var variables = new HashMap<String, Object>();
    variables.put("login", "ida.holm");
    variables.put("aliases", List.of("i.holm", "ida"));
    variables.put("person", Map.of("title", "Mate", "name", Map.of("givenName", "Ida")));
    variables.put("manager", hasManager ? Map.of("displayName", "Ada Head") : Map.of());
    return variables;
  }

  @Test
  public void anExpressionOverAnAccountNamesItsAttributes() {
    var account = Map.of("userName", "E-4711", "emails.work", "ada@skerrow.example");

    assertThat(expressions.textOfAccount("account.userName.replace('E-', '')", account))
        .contains("4711");
    assertThat(expressions.textOfAccount("account['emails.work']", account))
        .contains("ada@skerrow.example");
    assertThat(expressions.textOfAccount("account.title", account)).isEmpty();
    assertThat(
            expressions.problemOfAccount("row.userName", Where.field("x")).orElseThrow().remedy())
        .contains("account");
  }

  @Test
  public void aMappingThatOnlyNamesAnAttributeCanGoTheOtherWay() {
    assertThat(expressions.attributeOf("person.title")).contains("title");
    assertThat(expressions.attributeOf("person.name.familyName")).contains("name.familyName");
    assertThat(expressions.attributeOf("person.title + ' '")).isEmpty();
    assertThat(expressions.attributeOf("manager.title")).isEmpty();
    assertThat(expressions.attributeOf("login")).isEmpty();
    assertThat(expressions.attributeOf("'Mate'")).isEmpty();
  }
}
