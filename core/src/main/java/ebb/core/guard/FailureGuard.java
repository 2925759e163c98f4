package ebb.core.guard;

/** Tells when a run fails so often that going on would only fail more. */
public final class FailureGuard {
  /** A few refusals are the usual day: a name taken, an address mistyped. */
  static final long FEW = 10;

  /** One in five is no slip any more: a setting is wrong, or the application is. */
  static final double LARGEST_SHARE = 0.20;

  /**
   * @param refused changes refused that nobody let pass
   * @param over changes refused or carried out
   */
  public static boolean isTooMany(long refused, long over) {
    return refused >= FEW && refused > LARGEST_SHARE * over;
  }

  private FailureGuard() {}
}
