package ebb.core.execution;

import ebb.core.application.Instruction;
import ebb.core.change.Change;
import ebb.core.problem.Problem;

/** A change that was claimed, computed again and made ready to send. */
public sealed interface Claim {
  Change change();

  /**
   * @param looksFirst whether it may have been carried out before
   */
  record Wanted(Change change, Instruction instruction, boolean looksFirst) implements Claim {}

  /** Sessions and other ways in to an account are to be shut: doing it twice does no harm. */
  record Shutting(Change change, String accountId) implements Claim {}

  /** Earlier items of a group are to follow: doing it twice does no harm. */
  record CatchingUp(Change change, String accountId) implements Claim {}

  /**
   * What is personal is to be taken out of an account: doing it twice does no harm.
   *
   * @param standIn what stands where the application demands a value; of no other account there
   */
  record Stripping(Change change, String accountId, String standIn) implements Claim {}

  /** What it was for no longer holds, or holds already: nothing is sent. */
  record Overtaken(Change change) implements Claim {}

  /** Something it refers to is not there yet. */
  record NotReady(Change change, Problem why) implements Claim {}
}
