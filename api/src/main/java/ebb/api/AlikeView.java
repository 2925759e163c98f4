package ebb.api;

import java.util.List;

/**
 * Somebody known who may be the same as somebody else who is known.
 *
 * @param score up to 100
 * @param reasons in words, strongest first
 * @param values attribute to value, of what both have in one way or another
 */
public record AlikeView(
    long id,
    String displayName,
    String stage,
    int score,
    List<String> reasons,
    List<BothView> values) {
  /**
   * What is said of each.
   *
   * @param one null where nothing is said; so other
   */
  public record BothView(String attribute, String one, String other) {}
}
