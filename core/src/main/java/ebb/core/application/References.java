package ebb.core.application;

import java.util.List;

/** Asks an application what refers to an account. Groups it is a member of do not count. */
public interface References {
  /** Something that still refers to an account, in words: "manager of Ada Finch". */
  record Reference(String kind, String what) {}

  List<Reference> to(String accountId) throws Unreachable;

  /**
   * Whether references have to be carried along once this is done, as they have the account's name:
   * it is asked for again although the account is as it should be.
   */
  default boolean followOn(Instruction instruction) {
    return false;
  }
}
