package ebb.core.application;

import java.util.Collections;
import java.util.List;
import java.util.SortedMap;

/** What Ebb asks of an application, one account at a time. References are ids of accounts. */
public sealed interface Instruction {
  /**
   * @param externalId found again by it after a lost answer
   */
  record Create(String externalId, boolean usable, SortedMap<String, List<String>> values)
      implements Instruction {}

  /**
   * Sets these attributes, an empty list taking one away; the others stay.
   *
   * @param before what they last held, as far as that is known; it may have changed since
   */
  record Update(
      String accountId,
      SortedMap<String, List<String>> values,
      SortedMap<String, List<String>> before)
      implements Instruction {
    public Update(String accountId, SortedMap<String, List<String>> values) {
      this(accountId, values, Collections.emptySortedMap());
    }
  }

  record SetUsable(String accountId, boolean usable) implements Instruction {}

  record Join(String accountId, String group) implements Instruction {}

  record Leave(String accountId, String group) implements Instruction {}

  record TakeSeat(String accountId, String seat) implements Instruction {}

  record FreeSeat(String accountId, String seat) implements Instruction {}

  record SetPassword(String accountId, Secret password) implements Instruction {}

  record Delete(String accountId) implements Instruction {}
}
