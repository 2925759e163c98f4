package ebb.core.application;

import ebb.core.problem.Problem;
import java.time.Duration;
import java.util.Optional;

/** What became of an instruction. */
public sealed interface Outcome {
  /**
   * Carried out; read back where the application lets itself be read.
   *
   * @param account empty after a deletion
   */
  record Applied(Optional<ObservedAccount> account) implements Outcome {}

  /** It was so already, and nothing was written. */
  record AlreadyInPlace(Optional<ObservedAccount> account) implements Outcome {}

  /**
   * Carried out, as the application says, and not to be read there yet.
   *
   * @param after when reads show it
   */
  record NotSeenYet(Duration after, Problem problem) implements Outcome {}

  /** Accepted, and of a kind that cannot be read back: a password. */
  record Accepted() implements Outcome {}

  /**
   * Not carried out, as nothing would be now: the application is down, busy, or does not know us.
   *
   * @param after what the application asked for; null if it named no time
   */
  record RetryLater(Duration after, Problem problem) implements Outcome {}

  /** Not carried out, as somebody else changed the same at that moment: worth another try. */
  record Met(Problem problem) implements Outcome {}

  /** Not carried out, and never will be as it stands. */
  record Refused(Problem problem) implements Outcome {}

  /** Sent, and no answer came: it may have been carried out. Look before sending again. */
  record Unknown(Problem problem) implements Outcome {}
}
