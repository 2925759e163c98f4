package ebb.core.application;

import java.util.Collections;
import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * A group as its application showed it. Which accounts are in it, the accounts say.
 *
 * @param id the application's own permanent identifier
 * @param name by which accounts and rules call it
 * @param owners as the application calls them: ids of accounts where they are some
 * @param inner names of groups that are members of it
 * @param strangers members that are neither accounts nor groups, as the application calls them
 */
public record ObservedGroup(
    String id,
    String name,
    List<String> owners,
    SortedSet<String> inner,
    SortedSet<String> strangers) {
  public ObservedGroup {
    owners = List.copyOf(owners);
    inner = Collections.unmodifiableSortedSet(new TreeSet<>(inner));
    strangers = Collections.unmodifiableSortedSet(new TreeSet<>(strangers));
  }
}
