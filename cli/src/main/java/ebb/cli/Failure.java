package ebb.cli;

import ebb.api.ProblemView;
import java.util.List;

/** Something the service refused, or a service that could not be reached. Exit code 1. */
final class Failure extends RuntimeException {
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
