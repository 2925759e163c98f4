package ebb.core.guard;

import ebb.core.problem.Problem;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * Stops a change set that takes more from people than can be true. Counts what the same cause did
 * within the window too, so that many small sets weigh as much as one large one.
 */
public final class ChangeGuard {
  /** A day: what an organisation loses in people on one day is a few; more wants a second look. */
  public static final Duration WINDOW = Duration.ofDays(1);

  /**
   * @param accounts accounts the application has, and had within the window
   * @param before what this cause did within the window
   * @param now what the set would do
   */
  public record Load(
      String application, long accounts, Map<Taken, Long> before, Map<Taken, Long> now) {}

  /** A problem per limit that is passed; empty if the set may go on. */
  public static List<Problem> check(List<Load> loads, Limits limits) {
    return loads.stream()
        .flatMap(
            load ->
                Arrays.stream(Taken.values())
                    .filter(taken -> isTooMany(load, taken, limits))
                    .map(taken -> problem(load, taken, limits)))
        .toList();
  }

  private static boolean isTooMany(Load load, Taken taken, Limits limits) {
    var adds = load.now().getOrDefault(taken, 0L);
    var total = adds + load.before().getOrDefault(taken, 0L);
    return adds > 0
        && total > limits.of(Limit.FEW_ACCOUNTS, load.application())
        && total > limits.of(Limit.ACCOUNTS, load.application()) * load.accounts();
  }

  private static Problem problem(Load load, Taken taken, Limits limits) {
    var adds = load.now().getOrDefault(taken, 0L);
    var before = load.before().getOrDefault(taken, 0L);
    return new Problem(
        "guard-too-many-" + taken.word(),
        "%s: %d of %d accounts would %s in one day (%d now, %d before)."
            .formatted(
                load.application(), adds + before, load.accounts(), taken.words(), adds, before),
        "The limit is %s, or %s of the accounts, whichever is more."
            .formatted(
                Limit.FEW_ACCOUNTS.words(limits.of(Limit.FEW_ACCOUNTS, load.application())),
                Limit.ACCOUNTS.words(limits.of(Limit.ACCOUNTS, load.application()))),
        "Look at who is affected; if it is right, release it again with a reason to let it pass.",
        null);
  }

  private ChangeGuard() {}
}
