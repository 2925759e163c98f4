package ebb.cli;

import ebb.api.ProblemView;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** What is amiss in several steps of which none depends on another: all of it is said at once. */
final class Problems {
  private final List<ProblemView> all = new ArrayList<>();

  /** One of them. */
  interface Step {
    void take() throws IOException;
  }

  /**
   * Takes a step, and keeps what is amiss.
   *
   * @param where of what it is said; null where it says so itself
   * @throws Unreachable if the service did not answer
   */
  void gather(Object where, Step step) throws IOException {
    try {
      step.take();
    } catch (Unreachable e) {
      throw e;
    } catch (Failure e) {
      e.problems().forEach(problem -> all.add(where == null ? problem : at(where, problem)));
    }
  }

  private static ProblemView at(Object where, ProblemView problem) {
    return new ProblemView(
        problem.code(),
        problem.what(),
        problem.why(),
        problem.remedy(),
        problem.where() == null ? where.toString() : where + ", " + problem.where(),
        problem.column());
  }

  boolean isEmpty() {
    return all.isEmpty();
  }

  /**
   * @throws Failure with all of them
   */
  void mustBeNone() {
    if (!all.isEmpty()) {
      throw new Failure(all);
    }
  }
}
