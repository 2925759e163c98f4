package ebb.api;

import java.util.List;

/**
 * What would become of what a source says, if it said nothing any more.
 *
 * @param people whom it knows, as far as was looked
 * @param alone of whom nobody else says anything: they would have left
 * @param isWhole whether all were looked at
 */
public record RetirementView(
    String source, long people, long alone, boolean isWhole, List<FallbackView> fallbacks) {
  /**
   * @param to the source that would have the attribute then; null where nobody says anything of it
   * @param others of these people, for how many the value would be another
   */
  public record FallbackView(String attribute, String to, long people, long others) {}
}
