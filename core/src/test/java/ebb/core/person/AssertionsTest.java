package ebb.core.person;

import static ebb.core.person.People.LONG_AGO;
import static ebb.core.person.People.asserted;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.entry;

import ebb.core.Chance;
import java.time.LocalDate;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.testng.annotations.Test;

public class AssertionsTest {
  @Test
  public void keepsSinceAndCauseOfWhatDoesNotChange() {
    var before = asserted(1, "hr", Map.of("title", "Mate", "department", "Deck"));

    var after =
        before.with(Map.of("title", "Mate", "department", "Office"), LONG_AGO.plusSeconds(9), 7);

    assertThat(after.values().get("title").cause()).isEqualTo(1);
    assertThat(after.values().get("department").cause()).isEqualTo(7);
  }

  @Test
  public void takesBackWhatWasAddedChangedAndRemoved() {
    var before = asserted(1, "hr", Map.of("title", "Mate", "location", "Skerrow"));
    var left =
        before.with(
            edits("title", "Bosun", "location", null, "endDate", "2027-01-01"), LONG_AGO, 2);

    assertThat(left.reverting(left, before))
        .containsOnly(entry("title", "Mate"), entry("location", "Skerrow"), entry("endDate", null));
  }

  @Test
  public void leavesWhatWasOverriddenSince() {
    var before = asserted(1, "hr", Map.of("title", "Mate"));
    var left = before.with(Map.of("title", "Bosun"), LONG_AGO, 2);
    var now = left.with(Map.of("title", "Master"), LONG_AGO, 3);

    assertThat(now.reverting(left, before)).isEmpty();
  }

  @Test
  public void takingBackAndTakingThatBackGivesTheSameForAnyEdits() {
    var random = Chance.random(7);
    int changed = 0;
    for (int run = 0; run < 2_000; run++) {
      var before = asserted(1, "hr", some(random));
      var left = before.with(some(random), LONG_AGO, 2);
      var back = left.with(left.reverting(left, before), LONG_AGO, 3);
      var again = back.with(back.reverting(back, left), LONG_AGO, 4);

      assertThat(texts(back)).as("run %d", run).isEqualTo(texts(before));
      assertThat(texts(again)).as("run %d", run).isEqualTo(texts(left));
      changed += texts(left).equals(texts(before)) ? 0 : 1;
    }
    assertThat(changed).as("edits that changed anything").isGreaterThan(1_000);
  }

  @Test
  public void whatIsSaidUpToADayIsOverWithTheDayAfter() {
    var until = LocalDate.of(2027, 3, 14);
    var said =
        asserted(1, "hand", Map.of("title", "Mate"))
            .with(Map.of("location", "Quay"), until, LONG_AGO, 2);

    assertThat(said.endedBefore(until)).as("the last day is included").isEmpty();
    assertThat(said.endedBefore(until.plusDays(1))).containsExactly("location");
    assertThat(said.changing(Map.of("location", "Quay"), until)).isEmpty();
    assertThat(said.changing(Map.of("location", "Quay")))
        .as("the same for good is something else")
        .containsOnly(entry("location", "Quay"));
  }

  private static Map<String, String> texts(Assertions assertions) {
    var texts = new TreeMap<String, String>();
    assertions.values().forEach((attribute, asserted) -> texts.put(attribute, asserted.value()));
    return texts;
  }

  private static Map<String, String> some(Random random) {
    var values = new TreeMap<String, String>();
    for (var attribute : new String[] {"title", "department", "location", "endDate"}) {
      if (random.nextBoolean()) {
        values.put(attribute, "value " + random.nextInt(3));
      }
    }
    return values;
  }

  private static Map<String, String> edits(String... pairs) {
    var edits = new TreeMap<String, String>();
    for (int i = 0; i < pairs.length; i += 2) {
      edits.put(pairs[i], pairs[i + 1]);
    }
    return edits;
  }
}
