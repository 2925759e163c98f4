package ebb.core.application;

import ebb.core.problem.Problem;

/** Thrown by reads where an application does not answer or answers with nonsense. */
public final class Unreachable extends Exception {
  private final Problem problem;

  public Unreachable(Problem problem, Throwable cause) {
    super(problem.what(), cause);
    this.problem = problem;
  }

  public Problem problem() {
    return problem;
  }
}
