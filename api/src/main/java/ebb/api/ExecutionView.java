package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * How the work on all applications goes.
 *
 * @param stopped null while it goes on
 */
public record ExecutionView(PauseView stopped, List<WorkView> applications) {

  /**
   * How the work on one application goes.
   *
   * @param paused null while its changes are carried out
   * @param waiting released changes whose turn has not come
   * @param underWay changes that are being carried out
   * @param restsUntil until when it is left alone, as it does not answer; null if it is not
   * @param problem why it is left alone; null if it is not
   * @param callsAtOnce how many calls it is given now
   * @param expectedSeconds how long what waits and is under way will take, as past runs went; null
   *     if nobody knows, or nothing waits
   */
  public record WorkView(
      String application,
      PauseView paused,
      long waiting,
      long underWay,
      Instant restsUntil,
      ProblemView problem,
      int callsAtOnce,
      Long expectedSeconds) {}
}
