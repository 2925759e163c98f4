package ebb.service.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Equality;
import ebb.service.comparison.Comparing.Differing;
import ebb.service.comparison.Side.Has;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.testng.annotations.Test;

public class ComparingTest {
  private final Comparing comparing =
      new Comparing(side(Equality.EXACT), side(Equality.IGNORE_CASE_AND_SPACE));

  @Test
  public void peopleAreOnBothSidesOrOnOne() {
    comparing.count(has(Map.of()), has(Map.of()));
    comparing.count(has(Map.of()), Optional.empty());
    comparing.count(Optional.empty(), has(Map.of()));
    comparing.count(Optional.empty(), Optional.empty());

    assertThat(comparing.both()).isEqualTo(1);
    assertThat(comparing.leftOnly()).isEqualTo(1);
    assertThat(comparing.rightOnly()).isEqualTo(1);
  }

  @Test
  public void whatEitherSideTakesForTheSameIsTheSame() {
    var counting = new Comparing(side(Equality.EXACT), side(Equality.IGNORE_CASE_AND_SPACE));
    counting.count(has(Map.of("title", "Mate")), has(Map.of("title", "MATE")));
    counting.count(has(Map.of("title", "Mate")), has(Map.of("title", "Cook")));
    counting.count(has(Map.of("title", "Mate")), has(Map.of()));

    var title = counting.agreements().get("title");
    assertThat(List.of(title.same(), title.differ(), title.leftEmpty(), title.rightEmpty()))
        .containsExactly(1L, 1L, 0L, 1L);
  }

  @Test
  public void whatOnlyOneSideEverSpeaksOfIsNoDifference() {
    var counting = new Comparing(side(Equality.EXACT), side(Equality.EXACT));
    counting.count(has(Map.of("startDate", "2027-01-01")), has(Map.of("manager", "4711")));

    assertThat(counting.agreements()).isEmpty();
  }

  @Test
  public void whatDiffersIsShownWithBothValues() {
    assertThat(
            comparing.differing(
                has(Map.of("title", "Mate", "department", "Deck")).orElseThrow(),
                has(Map.of("title", "Cook", "department", "deck")).orElseThrow()))
        .containsExactly(new Differing("title", "Mate", "Cook"));
  }

  private static Side side(Equality equality) {
    return new Side.OfApplication("app", _ -> equality);
  }

  private static Optional<Has> has(Map<String, String> values) {
    var all = new TreeMap<String, List<String>>();
    values.forEach((attribute, value) -> all.put(attribute, List.of(value)));
    return Optional.of(new Has("one", all));
  }
}
