package ebb.core.application;

import java.util.List;

/** Asks an application what refers to an account. Groups it is a member of do not count. */
public interface References {
  /** Something that still refers to an account, in words: "manager of Ada Finch". */
  record Reference(String kind, String what) {}

  List<Reference> to(String accountId) throws Unreachable;
}
