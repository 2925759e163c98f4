package ebb.core.application;

import java.util.Collections;
import java.util.List;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * An account as its application showed it.
 *
 * @param id the application's own permanent identifier; a rename does not change it
 * @param externalId what Ebb left there to find the account again; null if nothing
 * @param usable whether its owner can sign in with it
 * @param values managed attributes in the names rules use; references as ids of accounts
 * @param groups names of the groups it is in
 */
public record ObservedAccount(
    String id,
    String externalId,
    boolean usable,
    SortedMap<String, List<String>> values,
    SortedSet<String> groups) {
  public ObservedAccount {
    values = Collections.unmodifiableSortedMap(new TreeMap<>(values));
    groups = Collections.unmodifiableSortedSet(new TreeSet<>(groups));
  }

  public List<String> texts(String attribute) {
    return values.getOrDefault(attribute, List.of());
  }
}
