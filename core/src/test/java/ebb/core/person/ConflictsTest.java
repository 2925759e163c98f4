package ebb.core.person;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

public class ConflictsTest {
  private static final PersonId IDA = new PersonId(1);
  private static final List<Assertions> SAID =
      List.of(
          says("hr", Map.of("title", "Mate", "department", "Deck", "location", "Skerrow")),
          says("pay", Map.of("title", "Cook", "department", "Deck", "timezone", "Europe/Oslo")),
          says("hand", Map.of("title", "Bosun", "location", "Quay")));

  @Test
  public void sourcesThatSayDifferentThingsAreInConflictAndHandsAreNot() {
    assertThat(Conflicts.in(SAID, "hand"))
        .isEqualTo(Map.of("title", Map.of("hr", "Mate", "pay", "Cook")));
  }

  @Test
  public void whatASourceHadAuthorityOverFallsToTheNextOrToNobody() {
    var ranks = Map.of("hand", 1_000, "hr", 100, "pay", 50);

    assertThat(Fallback.without("hr", IDA, SAID, ranks::get))
        .as("the hand has title and location")
        .isEqualTo(Map.of("department", new Fallback("pay", false)));
    assertThat(Fallback.without("pay", IDA, SAID, ranks::get))
        .isEqualTo(Map.of("timezone", new Fallback(null, true)));
    assertThat(Fallback.without("hand", IDA, SAID, ranks::get))
        .isEqualTo(Map.of("title", new Fallback("hr", true), "location", new Fallback("hr", true)));
  }

  private static Assertions says(String source, Map<String, String> values) {
    return Assertions.none(IDA, source).with(values, Instant.EPOCH, 1);
  }
}
