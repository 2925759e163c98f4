package ebb.api;

import java.util.List;

/**
 * Whom it was asked.
 *
 * @param asked how many are asked
 * @param notAsked each with the reason
 */
public record StillNeededView(int asked, List<NotAskedView> notAsked) {
  /** An account about which nobody is asked. */
  public record NotAskedView(long account, String name, String why) {}
}
