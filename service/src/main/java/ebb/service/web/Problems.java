package ebb.service.web;

import ebb.api.ProblemView;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Problems as they are shown. */
public final class Problems {
  /** Null stays null. */
  public static ProblemView view(Problem problem) {
    return problem == null
        ? null
        : new ProblemView(
            problem.code(),
            problem.what(),
            problem.why(),
            problem.remedy(),
            words(problem.where()),
            problem.where() == null ? null : problem.where().column());
  }

  public static List<ProblemView> views(List<Problem> problems) {
    return problems.stream().map(Problems::view).toList();
  }

  private static String words(Where where) {
    return where == null
        ? null
        : Stream.of(
                where.file(),
                where.line() == null ? null : "line " + where.line(),
                where.column() == null ? null : where.column())
            .filter(part -> part != null)
            .collect(Collectors.joining(", "));
  }

  private Problems() {}
}
