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
 * @param seats names of the seats it takes
 */
public record ObservedAccount(
    String id,
    String externalId,
    boolean usable,
    SortedMap<String, List<String>> values,
    SortedSet<String> groups,
    SortedSet<String> seats) {
  public ObservedAccount {
    values = Collections.unmodifiableSortedMap(new TreeMap<>(values));
    groups = Collections.unmodifiableSortedSet(new TreeSet<>(groups));
    // Accounts that were read before there were seats.
    seats =
        Collections.unmodifiableSortedSet(seats == null ? new TreeSet<>() : new TreeSet<>(seats));
  }

  /** An account that takes no seat, or of which that is not known. */
  public ObservedAccount(
      String id,
      String externalId,
      boolean usable,
      SortedMap<String, List<String>> values,
      SortedSet<String> groups) {
    this(id, externalId, usable, values, groups, new TreeSet<>());
  }

  public ObservedAccount in(SortedSet<String> seats) {
    return new ObservedAccount(id, externalId, usable, values, groups, seats);
  }

  public ObservedAccount inGroups(SortedSet<String> groups) {
    return new ObservedAccount(id, externalId, usable, values, groups, seats);
  }

  public List<String> texts(String attribute) {
    return values.getOrDefault(attribute, List.of());
  }
}
