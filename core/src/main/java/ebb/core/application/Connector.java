package ebb.core.application;

import java.util.List;
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

  /**
   * Reads accounts, page by page, in no particular order, and groups. Holds one page at a time.
   *
   * @param since the mark of a reading before: what changed since is enough. Null for everything,
   *     which is also read where the application does not know the mark any more
   */
  Reading read(String since, Sightings to) throws Unreachable;

  /** Reads every account. */
  default void readAll(Consumer<ObservedAccount> each) throws Unreachable {
    read(null, each::accept);
  }

  /** All there is of an account, for somebody to look at; empty if there is no such account. */
  default Optional<Details> details(String accountId) throws Unreachable {
    return find(accountId).map(account -> new Details(account.values(), null, null));
  }

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

  /** Those by which Ebb carries over what an account owns; each is of another kind. */
  default List<Carrier> carriers() {
    return List.of();
  }

  /** Empty where nothing answers by itself whoever writes to an account. */
  default Optional<Replies> replies() {
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

  /** Empty where the application cannot say which items were made for a group. */
  default Optional<EarlierItems> earlierItems() {
    return Optional.empty();
  }

  /** Empty where the application cannot say what seats there are. */
  default Optional<Seats> seats() {
    return Optional.empty();
  }

  @Override
  void close();
}
