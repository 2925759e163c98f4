package ebb.core.application;

/** Asks an application who is signed in, and ends that. */
public interface Sessions {
  /** How many sessions of an account are open. */
  int open(String accountId) throws Unreachable;

  /** Ends all of them. Called twice, the second finds none. */
  void end(String accountId) throws Unreachable;
}
