package ebb.core.application;

import java.util.Optional;
import java.util.function.Consumer;

/**
 * The port to one connected application. Implementations are safe for use by several threads, and
 * are called with no transaction open.
 */
public interface Connector extends AutoCloseable {
  Capabilities capabilities() throws Unreachable;

  /** Looks at the application anew, and writes nothing there. */
  Inspection inspect() throws Unreachable;

  /** Reads every account, page by page, in no particular order. Holds one page at a time. */
  void readAll(Consumer<ObservedAccount> each) throws Unreachable;

  /** The account with this id; empty if there is none. */
  Optional<ObservedAccount> find(String accountId) throws Unreachable;

  /** The account in which Ebb left this external id; empty if there is none. */
  Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable;

  /** Carries out one instruction. Called twice, the second finds all in place. Never throws. */
  Outcome apply(Instruction instruction);

  /** Empty where the application cannot say what an account owns. */
  default Optional<Ownership> ownership() {
    return Optional.empty();
  }

  /** Empty where the application cannot say what refers to an account. */
  default Optional<References> references() {
    return Optional.empty();
  }

  /** Empty where the application cannot say which ways in are open. */
  default Optional<WaysIn> waysIn() {
    return Optional.empty();
  }

  /** Empty where the application cannot say who is signed in. */
  default Optional<Sessions> sessions() {
    return Optional.empty();
  }

  /** Empty where the application cannot say when an account was last used. */
  default Optional<Activity> activity() {
    return Optional.empty();
  }

  /** Empty where the application cannot say what seats there are. */
  default Optional<Seats> seats() {
    return Optional.empty();
  }

  @Override
  void close();
}
