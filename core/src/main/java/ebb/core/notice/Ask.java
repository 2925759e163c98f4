package ebb.core.notice;

import ebb.core.person.PersonId;
import java.time.Instant;

/**
 * A single-use page for somebody who is no operator.
 *
 * @param tokenHash SHA-256 of the token in its link, in hex; the token itself is not kept
 * @param usedAt null until used
 * @param tries answers that were not taken
 */
public record Ask(
    String tokenHash,
    long notice,
    PersonId person,
    Notice.Kind kind,
    Instant expiresAt,
    Instant usedAt,
    int tries) {
  /** More tries than a person makes, fewer than a guesser needs. */
  public static final int MOST_TRIES = 10;

  public boolean isOpenAt(Instant instant) {
    return usedAt == null && instant.isBefore(expiresAt) && tries < MOST_TRIES;
  }
}
