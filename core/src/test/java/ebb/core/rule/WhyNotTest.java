package ebb.core.rule;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.person.Person;
import ebb.core.problem.Where;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class WhyNotTest {
  private final Expressions expressions = new Expressions();

  private List<String> whyNot(String cel, Person person) {
    return WhyNot.of(expressions.condition(cel, Where.field("condition")), person);
  }

  @DataProvider
  public Object[][] reasons() {
    return new Object[][] {
      {"person.department == 'Deck'", List.of("unit is Catering, and must be Deck")},
      {
        "person.department in ['Deck', 'Yard'] && person.userType != 'guest'",
        List.of(
            "unit is Catering, and must be one of Deck or Yard",
            "kind is guest, and must not be guest")
      },
      {
        "person.department == 'Deck' || person.title.startsWith('M')",
        List.of(
            "either unit is Catering, and must be Deck; or job is not known, and must begin with M")
      },
      {"!(person.userType == 'guest')", List.of("kind is guest, and must not be guest")},
      {"has(person.title)", List.of("job is not known, and must be known")},
      {
        "person.startDate >= '2026-06-01'",
        List.of("first day is 2026-01-05, and must be at or after 2026-06-01")
      },
      {"person.department == 'Catering'", List.of()},
      {"size(person.department) == 3", List.of()},
    };
  }

  @Test(dataProvider = "reasons")
  public void whatIsMissingIsSaidPartByPart(String cel, List<String> reasons) {
    var ida =
        person(1, Map.of("department", "Catering", "userType", "guest", "startDate", "2026-01-05"));
    assertThat(whyNot(cel, ida)).isEqualTo(reasons);
  }

  @Test
  public void nothingIsMissingExactlyWhereTheConditionHolds() {
    var desire = new Desire(List.of(), expressions, ZoneId.of("UTC"));
    var first = Chance.seed(0);
    int holding = 0;
    for (var seed = first; seed < first + 800; seed++) {
      var random = new Random(seed);
      var cel = Conditions.cel(ConditionsTest.some(random, 3));
      var person = somebody(random);
      var subject = new Subject(person, null, List.of(), List.of(), List.of(), false);
      assertThat(whyNot(cel, person).isEmpty())
          .as("seed %d: %s of %s", seed, cel, person)
          .isEqualTo(desire.verdict(cel, subject, _ -> Optional.empty()).holds());
      holding += whyNot(cel, person).isEmpty() ? 1 : 0;
    }
    assertThat(holding).as("conditions that hold").isBetween(80, 720);
  }

  private static Person somebody(Random random) {
    var values = new HashMap<String, String>();
    for (var attribute : ConditionsTest.ATTRIBUTES) {
      if (random.nextInt(3) > 0) {
        values.put(
            attribute, ConditionsTest.VALUES.get(random.nextInt(ConditionsTest.VALUES.size())));
      }
    }
    return person(1, values);
  }
}
