package ebb.connectors.seats;

import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * Whoever is in a group takes a seat.
 *
 * @param groups those that stand for seats
 */
record ByGroup(Connector accounts, Set<String> groups) implements SeatWay {
  @Override
  public boolean isThere(Set<Part> parts) {
    return parts.contains(Part.GROUPS);
  }

  @Override
  public SortedSet<String> of(ObservedAccount account) {
    var seats = new TreeSet<>(account.groups());
    seats.retainAll(groups);
    return seats;
  }

  @Override
  public Reading reading() {
    return this::of;
  }

  @Override
  public Outcome take(String account, String seat) {
    return accounts.apply(new Instruction.Join(account, seat));
  }

  @Override
  public Outcome free(String account, String seat) {
    return accounts.apply(new Instruction.Leave(account, seat));
  }
}
