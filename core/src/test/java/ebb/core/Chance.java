package ebb.core;

import java.util.Random;

/**
 * Seeds of tests that go by chance. Each test keeps one, so that it runs alike every time; -Dseed
 * gives them all others. What was used is printed once for each test.
 */
public final class Chance {
  private static final Long GIVEN = Long.getLong("seed");

  /**
   * @param kept the test's own seed; two of one test are two
   */
  public static long seed(long kept) {
    var seed = GIVEN == null ? kept : GIVEN * 31 + kept;
    var caller =
        StackWalker.getInstance(StackWalker.Option.RETAIN_CLASS_REFERENCE)
            .walk(
                frames ->
                    frames
                        .filter(frame -> frame.getDeclaringClass() != Chance.class)
                        .findFirst()
                        .orElseThrow());
    System.out.printf(
        "Seed of %s.%s: %d%s%n",
        caller.getDeclaringClass().getSimpleName(),
        caller.getMethodName(),
        seed,
        GIVEN == null ? "" : " (seed=%d)".formatted(GIVEN));
    return seed;
  }

  public static Random random(long kept) {
    return new Random(seed(kept));
  }

  private Chance() {}
}
