package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/**
 * A value of a person, with the source that has authority over it.
 *
 * @param until the last day it holds; null for no end
 * @param others what other sources say, the strongest first: the first of them would hold if this
 *     one were taken away
 */
public record ValueView(
    String value, String source, Instant since, LocalDate until, List<OtherValueView> others) {
  /** What a source of less authority says. */
  public record OtherValueView(String value, String source, Instant since) {}
}
