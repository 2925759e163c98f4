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
  public void creatingAndChangingTakeNothingAndRenamingDoes() {
    for (var kind : List.of(ChangeKind.CREATE, ChangeKind.OPEN, ChangeKind.JOIN)) {
      assertThat(Taken.by(kind, false)).isEmpty();
    }
    assertThat(Taken.by(ChangeKind.UPDATE, false)).isEmpty();
    assertThat(Taken.by(ChangeKind.UPDATE, true)).contains(Taken.RENAME);
    assertThat(
            ChangeGuard.check(
                List.of(new Load("app", 100, Map.of(Taken.RENAME, 8L), Map.of(Taken.RENAME, 4L))),
                Limits.USUAL))
        .extracting(Problem::what)
        .containsExactly(
            "app: 12 of 100 accounts would have another login in one day (4 now, 8 before).");
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
            new Load("app", accounts, Map.of(Taken.SUSPEND, before), Map.of(Taken.SUSPEND, now))),
        Limits.USUAL);
  }
}
