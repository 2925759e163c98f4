package ebb.core.application;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.Test;

public class NestingTest {
  private static final Nesting SHIP =
      new Nesting(
          Map.of(
              "all hands", Set.of("deck", "engine"),
              "deck", Set.of("watch"),
              "keys", Set.of("all hands")));

  @Test
  public void whatIsWithinAGroupIsFoundHoweverDeep() {
    assertThat(SHIP.within("keys")).containsExactly("all hands", "deck", "engine", "keys", "watch");
    assertThat(SHIP.within("watch")).containsExactly("watch");
  }

  @Test
  public void whoIsInAGroupIsInAllAroundIt() {
    assertThat(SHIP.around(List.of("watch", "engine")))
        .isEqualTo(Map.of("all hands", "engine", "deck", "watch", "keys", "engine"));
    assertThat(SHIP.around(List.of("keys"))).isEmpty();
    assertThat(SHIP.around(List.of())).isEmpty();
  }

  @Test
  public void aRingEndsWhereItBegan() {
    var ring = new Nesting(Map.of("a", Set.of("b"), "b", Set.of("a", "c")));

    assertThat(ring.within("a")).containsExactly("a", "b", "c");
    assertThat(ring.around(List.of("c"))).isEqualTo(Map.of("a", "c", "b", "c"));
    assertThat(ring.around(List.of("a"))).isEqualTo(Map.of("b", "a"));
  }
}
