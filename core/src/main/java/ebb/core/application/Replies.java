package ebb.core.application;

import java.time.LocalDate;
import java.util.Optional;

/** Has a server answer by itself whoever writes to an account. */
public interface Replies {
  /**
   * @param until the last day on which it is sent
   */
  record Reply(String subject, String text, LocalDate until) {}

  /** What Ebb set and did not take back; empty if there is nothing. */
  Optional<Reply> of(String accountId) throws Unreachable;

  /**
   * Called twice, the second takes the place of the first. What the owner set up goes on beside it.
   */
  void set(String accountId, Reply reply) throws Unreachable;

  /** What the owner had set up is as it was. Called twice, the second finds nothing. */
  void takeBack(String accountId) throws Unreachable;
}
