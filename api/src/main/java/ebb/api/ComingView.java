package ebb.api;

import java.time.Instant;
import java.util.List;

/** What a day will bring for one person. */
public record ComingView(long person, String displayName, String department, List<StepView> steps) {
  /**
   * @param words as in "account prepared"
   */
  public record StepView(Instant at, String application, String kind, String words) {}
}
