package ebb.core.handover;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Ownership.Item;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

public class ProofTest {
  private static final Item NOTES = new Item("1", "files", "notes", 10, "aa", true);
  private static final Item CHART = new Item("2", "files", "chart", 10, "bb", true);

  @Test
  public void provenWhenAllArrivedUnalteredAndNothingStayed() {
    assertThat(check(List.of(), Map.of("1", NOTES, "2", CHART))).isEmpty();
  }

  @Test
  public void namesWhatStayedBehind() {
    assertThat(check(List.of(CHART), Map.of("1", NOTES)))
        .extracting(Problem::code)
        .containsExactly("handover-left-behind");
  }

  @Test
  public void namesWhatIsNowhere() {
    assertThat(check(List.of(), Map.of("1", NOTES)))
        .extracting(Problem::code)
        .containsExactly("handover-not-arrived");
  }

  @Test
  public void namesWhatWasAltered() {
    var altered = new Item("2", "files", "chart", 10, "cc", true);

    assertThat(check(List.of(), Map.of("1", NOTES, "2", altered)))
        .extracting(Problem::code)
        .containsExactly("handover-altered");
  }

  @Test
  public void whatCannotBeHandedOverMayStay() {
    assertThat(
            check(
                List.of(new Item("3", "mail", "inbox", 1, "dd", false)),
                Map.of("1", NOTES, "2", CHART)))
        .isEmpty();
  }

  private static List<Problem> check(List<Item> left, Map<String, Item> arrived) {
    return Proof.check(List.of(NOTES, CHART), left, arrived, "Head");
  }
}
