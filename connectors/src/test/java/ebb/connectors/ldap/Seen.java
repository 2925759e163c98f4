package ebb.connectors.ldap;

import ebb.core.application.Connector;
import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What a reading came past. */
final class Seen implements Sightings {
  final Map<String, ObservedAccount> changed = new TreeMap<>();
  final Set<String> unchanged = new TreeSet<>();
  final Set<String> gone = new TreeSet<>();
  final Map<String, ObservedGroup> groups = new TreeMap<>();
  final Map<String, Set<String>> members = new TreeMap<>();
  final Set<String> groupsGone = new TreeSet<>();
  final Set<String> groupsUnchanged = new TreeSet<>();

  Reading read(Connector connector, String since) throws Unreachable {
    return connector.read(since, this);
  }

  String id(String userName) {
    return changed.values().stream()
        .filter(account -> account.texts("userName").contains(userName))
        .findFirst()
        .orElseThrow()
        .id();
  }

  /** Who is there after this reading, if that was so before. */
  Set<String> left(Seen before, Reading reading) {
    var left = new TreeSet<String>();
    if (reading.whole()) {
      left.addAll(unchanged);
    } else {
      left.addAll(before.changed.keySet());
      left.removeAll(gone);
    }
    left.addAll(changed.keySet());
    return left;
  }

  /** Which groups are there after this reading, if those were before. */
  Set<String> groupsLeft(Seen before, Reading reading) {
    var left = new TreeSet<String>();
    if (reading.wholeOfGroups()) {
      left.addAll(groupsUnchanged);
    } else {
      before.groups.values().forEach(group -> left.add(group.id()));
      left.removeAll(groupsGone);
    }
    groups.values().forEach(group -> left.add(group.id()));
    return left;
  }

  @Override
  public void account(ObservedAccount account) {
    changed.put(account.id(), account);
  }

  @Override
  public void unchanged(String accountId) {
    unchanged.add(accountId);
  }

  @Override
  public void gone(String accountId) {
    gone.add(accountId);
  }

  @Override
  public void group(ObservedGroup group) {
    groups.put(group.name(), group);
  }

  @Override
  public void groupUnchanged(String groupId) {
    groupsUnchanged.add(groupId);
  }

  @Override
  public void groupGone(String groupId) {
    groupsGone.add(groupId);
  }

  @Override
  public void members(String group, Set<String> accountIds) {
    members.put(group, accountIds);
  }
}
