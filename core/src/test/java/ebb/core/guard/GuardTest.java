package ebb.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.change.ChangeKind;
import ebb.core.guard.ChangeGuard.Load;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

public class GuardTest {
  @Test
  public void anOrdinaryDayPasses() {
    assertThat(suspending(400, 0, 10)).isEmpty();
    assertThat(suspending(50, 0, 10)).isEmpty();
  }

  @Test
  public void tooManyAtOnceAreStopped() {
    assertThat(suspending(400, 0, 41))
        .singleElement()
        .satisfies(
            stop -> {
              assertThat(stop.code()).isEqualTo("guard-too-many-suspend");
              assertThat(stop.what()).contains("41 of 400");
            });
  }

  @Test
  public void manySmallSetsWeighAsMuchAsOneLarge() {
    assertThat(suspending(400, 38, 2)).isEmpty();
    assertThat(suspending(400, 38, 3)).hasSize(1);
  }

  @Test
  public void creatingIsNeverTooMuch() {
    assertThat(
            ChangeGuard.check(
                List.of(new Load("app", 0, Map.of(), Map.of(ChangeKind.CREATE, 100_000L))),
                Limits.USUAL))
        .isEmpty();
  }

  @Test
  public void aRunStopsWhereTooMuchOfItIsRefusedAndNotForAFew() {
    assertThat(FailureGuard.isTooMany(9, 9)).isFalse();
    assertThat(FailureGuard.isTooMany(10, 50)).isFalse();
    assertThat(FailureGuard.isTooMany(11, 50)).isTrue();
    assertThat(FailureGuard.isTooMany(100, 10_000)).isFalse();
  }

  private static List<Problem> suspending(long accounts, long before, long now) {
    return ChangeGuard.check(
        List.of(
            new Load(
                "app",
                accounts,
                Map.of(ChangeKind.SUSPEND, before),
                Map.of(ChangeKind.SUSPEND, now))),
        Limits.USUAL);
  }
}
