package ebb.core.application;

import ebb.core.problem.Problem;
import java.time.Duration;
import java.util.List;

/**
 * What a look at an application found, without writing anything there.
 *
 * @param ahead how far the application's clock is ahead of ours, negative if behind; null if it
 *     does not say what time it is
 */
public record Inspection(Capabilities capabilities, List<Tried> tried, Duration ahead) {
  /**
   * One thing that was tried.
   *
   * @param what as it follows "Ebb can": list accounts
   * @param problem why it does not work; null if it does
   * @param without what one has to live with while it does not; empty if it works
   */
  public record Tried(String what, Problem problem, String without) {
    public static Tried works(String what) {
      return new Tried(what, null, "");
    }

    public boolean isWell() {
      return problem == null;
    }
  }
}
