package ebb.core.unit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.Test;

public class UnitTreeTest {
  private static final UnitTree TREE =
      UnitTree.of(
          Map.of(
              "C", Map.of("name", "Company"),
              "S", Map.of("name", "Ships", "parent", "C"),
              "D", Map.of("name", "Deck", "parent", "S"),
              "E", Map.of("name", "Engine", "parent", "S"),
              "O", Map.of("name", "Office", "parent", "nobody")));

  @Test
  public void leadsFromAUnitToTheTop() {
    assertThat(TREE.path("Deck")).containsExactly("Deck", "Ships", "Company");
    assertThat(TREE.path("Company")).containsExactly("Company");
    assertThat(TREE.path("Dry dock")).as("one nobody knows").containsExactly("Dry dock");
    assertThat(TREE.below("Ships")).containsExactly("Deck", "Engine");
    assertThat(TREE.below(null)).containsExactly("Company", "Office");
  }

  @Test
  public void aRingEndsWhereItBegan() {
    assertThat(tree("A", "B", "B", "C", "C", "A").path("A")).containsExactly("A", "B", "C");
  }

  @Test
  public void whoeverStandsBelowAMovedUnitHasMovedWithIt() {
    var now =
        UnitTree.of(
            Map.of(
                "C", Map.of("name", "Company"),
                "S", Map.of("name", "Ships"),
                "D", Map.of("name", "Deck", "parent", "S"),
                "E", Map.of("name", "Engine", "parent", "S"),
                "O", Map.of("name", "Office", "parent", "nobody")));

    assertThat(now.movedSince(TREE)).containsExactly("Deck", "Engine", "Ships");
    assertThat(now.movedSince(now)).isEmpty();
  }

  @Test
  public void whatOneSourceSaysGoesBeforeWhatAnotherDoes() {
    var other = tree("Deck", "Elsewhere", "Yard", null);

    assertThat(TREE.or(other).path("Deck")).containsExactly("Deck", "Ships", "Company");
    assertThat(TREE.or(other).path("Yard")).containsExactly("Yard");
  }

  /** Unit and parent in turn. */
  private static UnitTree tree(String... pairs) {
    var parents = new TreeMap<String, String>();
    var all = Arrays.asList(pairs);
    for (int i = 0; i < all.size(); i += 2) {
      parents.put(all.get(i), all.get(i + 1));
    }
    return new UnitTree(parents);
  }
}
