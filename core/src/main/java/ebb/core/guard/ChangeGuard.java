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

  /** Below this many a share says nothing: three of ten contractors may well end together. */
  static final int ALWAYS_ALLOWED = 10;

  /** A tenth of an application's accounts in a day is more than any ordinary day brings. */
  static final double LARGEST_SHARE = 0.10;

  /**
   * @param accounts accounts the application has now
   * @param before what this cause did within the window
   * @param now what the set would do
   */
  public record Load(
      String application, long accounts, Map<ChangeKind, Long> before, Map<ChangeKind, Long> now) {}

  /** A problem per limit that is passed; empty if the set may go on. */
  public static List<Problem> check(List<Load> loads) {
    return loads.stream()
        .flatMap(
            load ->
                Stream.of(ChangeKind.SUSPEND, ChangeKind.CLOSE, ChangeKind.DELETE, ChangeKind.LEAVE)
                    .filter(kind -> isTooMany(load, kind))
                    .map(kind -> problem(load, kind)))
        .toList();
  }

  private static boolean isTooMany(Load load, ChangeKind kind) {
    var adds = load.now().getOrDefault(kind, 0L);
    var total = adds + load.before().getOrDefault(kind, 0L);
    return adds > 0 && total > ALWAYS_ALLOWED && total > LARGEST_SHARE * load.accounts();
  }

  private static Problem problem(Load load, ChangeKind kind) {
    var adds = load.now().getOrDefault(kind, 0L);
    var before = load.before().getOrDefault(kind, 0L);
    return new Problem(
        "guard-too-many-" + kind.word(),
        "%s: %d of %d accounts would have %s in one day (%d now, %d before)."
            .formatted(
                load.application(), adds + before, load.accounts(), kind.word(), adds, before),
        "The limit is %d, or a tenth of the accounts, whichever is more.".formatted(ALWAYS_ALLOWED),
        "Look at who is affected; if it is right, release it again with a reason to let it pass.",
        null);
  }

  private ChangeGuard() {}
}
