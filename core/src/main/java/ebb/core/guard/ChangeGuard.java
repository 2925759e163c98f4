package ebb.core.guard;

import ebb.core.change.ChangeKind;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * Stops a change set that takes more from people than can be true. Counts what the same cause did
 * within the window too, so that many small sets weigh as much as one large one.
 */
public final class ChangeGuard {
  /** A day: what an organisation loses in people on one day is a few; more wants a second look. */
  public static final Duration WINDOW = Duration.ofDays(1);

  /**
   * @param accounts accounts the application has now
   * @param before what this cause did within the window
   * @param now what the set would do
   */
  public record Load(
      String application, long accounts, Map<ChangeKind, Long> before, Map<ChangeKind, Long> now) {}

  /** A problem per limit that is passed; empty if the set may go on. */
  public static List<Problem> check(List<Load> loads, Limits limits) {
    return loads.stream()
        .flatMap(
            load ->
                Stream.of(ChangeKind.SUSPEND, ChangeKind.CLOSE, ChangeKind.DELETE, ChangeKind.LEAVE)
                    .filter(kind -> isTooMany(load, kind, limits))
                    .map(kind -> problem(load, kind, limits)))
        .toList();
  }

  private static boolean isTooMany(Load load, ChangeKind kind, Limits limits) {
    var adds = load.now().getOrDefault(kind, 0L);
    var total = adds + load.before().getOrDefault(kind, 0L);
    return adds > 0
        && total > limits.of(Limit.FEW_ACCOUNTS, load.application())
        && total > limits.of(Limit.ACCOUNTS, load.application()) * load.accounts();
  }

  private static Problem problem(Load load, ChangeKind kind, Limits limits) {
    var adds = load.now().getOrDefault(kind, 0L);
    var before = load.before().getOrDefault(kind, 0L);
    return new Problem(
        "guard-too-many-" + kind.word(),
        "%s: %d of %d accounts would have %s in one day (%d now, %d before)."
            .formatted(
                load.application(), adds + before, load.accounts(), kind.word(), adds, before),
        "The limit is %s, or %s of the accounts, whichever is more."
            .formatted(
                Limit.FEW_ACCOUNTS.words(limits.of(Limit.FEW_ACCOUNTS, load.application())),
                Limit.ACCOUNTS.words(limits.of(Limit.ACCOUNTS, load.application()))),
        "Look at who is affected; if it is right, release it again with a reason to let it pass.",
        null);
  }

  private ChangeGuard() {}
}
