package ebb.connectors.seats;

import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Sightings;
import java.util.Set;
import java.util.SortedSet;
import java.util.function.UnaryOperator;

/** Passes on what a reading comes past, each account with its seats. */
record SeatedSightings(Sightings to, UnaryOperator<SortedSet<String>> ours, SeatWay.Reading reading)
    implements Sightings {
  @Override
  public void account(ObservedAccount account) {
    to.account(account.in(ours.apply(reading.of(account))));
  }

  @Override
  public void unchanged(String accountId) {
    to.unchanged(accountId);
  }

  @Override
  public void gone(String accountId) {
    to.gone(accountId);
  }

  @Override
  public void group(ObservedGroup group) {
    to.group(group);
  }

  @Override
  public void members(String group, Set<String> accountIds) {
    to.members(group, accountIds);
  }

  @Override
  public void groupUnchanged(String groupId) {
    to.groupUnchanged(groupId);
  }

  @Override
  public void groupGone(String groupId) {
    to.groupGone(groupId);
  }
}
