package ebb.cli;

import ebb.api.ProblemView;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** What is amiss in several steps of which none depends on another: all of it is said at once. */
final class Problems {
  private final List<ProblemView> all = new ArrayList<>();

  /** One of them. */
  interface Step {
    void take() throws IOException;
  }

  void add(Failure failure) {
    all.addAll(failure.problems());
  }

  /**
   * Takes a step, and keeps what is amiss.
   *
   * @throws Unreachable if the service did not answer
   */
  void gather(Step step) throws IOException {
    try {
      step.take();
    } catch (Unreachable e) {
      throw e;
    } catch (Failure e) {
      add(e);
    }
  }

  /** As {@link #gather(Step)}, where what is amiss does not say itself in which file it is. */
  void gather(Path file, Step step) throws IOException {
    var found = new Problems();
    found.gather(step);
    found.all.forEach(problem -> all.add(at(file, problem)));
  }

  private static ProblemView at(Path file, ProblemView problem) {
    return new ProblemView(
        problem.code(),
        problem.what(),
        problem.why(),
        problem.remedy(),
        problem.where() == null ? file.toString() : file + ", " + problem.where(),
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
