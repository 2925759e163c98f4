package ebb.cli;

import ebb.api.ProblemView;
import java.util.List;

/** Something the service refused, or that could not be asked of it. Exit code 1. */
sealed class Failure extends RuntimeException permits Unreachable {
  private final transient List<ProblemView> problems;

  Failure(List<ProblemView> problems) {
    super(problems.getFirst().what());
    this.problems = problems;
  }

  Failure(String what, String why, String remedy) {
    this(List.of(new ProblemView("client", what, why, remedy, null, null)));
  }

  List<ProblemView> problems() {
    return problems;
  }
}
