package ebb.core.application;

import java.util.Set;
import java.util.function.Consumer;

/** Asks an application what an account owns, and has it handed over. */
public interface Ownership {
  /**
   * One thing an account owns.
   *
   * @param kind files, mail, calendar …, in the application's words
   * @param sha256 of the content, in hex
   * @param transferable whether the application can hand this kind over
   */
  record Item(
      String id, String kind, String name, long bytes, String sha256, boolean transferable) {}

  enum TransferState {
    RUNNING,
    DONE,
    FAILED
  }

  /**
   * @param detail what the application says of it; empty if nothing
   */
  record Transfer(String id, TransferState state, String detail) {}

  /** Streams what an account owns, page by page. */
  void items(String accountId, Consumer<Item> each) throws Unreachable;

  /**
   * Starts handing over all that can be. Called twice with one key, the second answers with the
   * transfer of the first.
   *
   * @param kinds of which; empty for all
   */
  Transfer startTransfer(String from, String to, Set<String> kinds, String key) throws Unreachable;

  Transfer transfer(String id) throws Unreachable;
}
