package ebb.core.feed;

import ebb.core.problem.Problem;

/** A delivery could not be got. */
public final class Undelivered extends Exception {
  private static final long serialVersionUID = 1L;

  private final transient Problem problem;
  private final boolean passing;

  /**
   * @param passing whether it may work in a moment without anybody doing anything
   */
  public Undelivered(Problem problem, boolean passing, Throwable cause) {
    super(problem.what(), cause);
    this.problem = problem;
    this.passing = passing;
  }

  public Problem problem() {
    return problem;
  }

  public boolean isPassing() {
    return passing;
  }
}
