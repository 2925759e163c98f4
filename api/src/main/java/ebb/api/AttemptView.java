package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * One try to carry out a change.
 *
 * @param number from 1
 * @param outcome the state the change was in afterwards
 * @param exchanges what went over the wire, in order; secrets are left out
 */
public record AttemptView(int number, String outcome, List<ExchangeView> exchanges) {

  /** One request and what came back. */
  public record ExchangeView(Instant askedAt, Instant answeredAt, String request, String answer) {}
}
