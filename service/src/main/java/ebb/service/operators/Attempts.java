package ebb.service.operators;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Slows down who guesses passwords. Wrong guesses for a name count against everybody who tries it
 * from a browser never signed in with before; a browser that was is counted by itself, so that a
 * stranger's guesses do not keep the real operator out.
 */
final class Attempts {
  private static final int FREE = 5;
  private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);
  private static final int LARGEST = 10_000;

  private record Failures(int count, Instant until) {}

  private final Map<String, Failures> failures =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Failures> eldest) {
          return size() > LARGEST;
        }
      };

  /**
   * @param who the browser, or the name where the browser is not known
   * @throws Refusal while it must wait
   */
  synchronized void check(String who, Instant now) {
    var so = failures.get(who);
    if (so != null && now.isBefore(so.until())) {
      var seconds = Duration.between(now, so.until()).toSeconds() + 1;
      throw new Refusal(
          Refusal.Kind.TOO_OFTEN,
          new Problem(
              "too-many-attempts",
              "There were too many wrong attempts.",
              "The next one is looked at in %d seconds.".formatted(seconds),
              "Wait, or sign in from a browser you have used here before; an administrator can"
                  + " send you a new link.",
              null));
    }
  }

  /** After five free ones each failure doubles the wait. */
  synchronized void failed(String who, Instant now) {
    var count = failures.containsKey(who) ? failures.get(who).count() + 1 : 1;
    var wait = count < FREE ? Duration.ZERO : Duration.ofSeconds(1L << Math.min(20, count - FREE));
    failures.put(
        who, new Failures(count, now.plus(wait.compareTo(LONGEST_WAIT) < 0 ? wait : LONGEST_WAIT)));
  }

  synchronized void succeeded(String who) {
    failures.remove(who);
  }
}
