package ebb.connectors.seats;

import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import java.util.Set;
import java.util.SortedSet;

/** What stands for a seat in an application. Seats are called here as they are called there. */
interface SeatWay {
  /** Whether accounts can take seats at all. */
  boolean isThere(Set<Part> parts);

  SortedSet<String> of(ObservedAccount account) throws Unreachable;

  /** As {@link #of}, for all accounts, asking no more than is needed for all of them. */
  Reading reading() throws Unreachable;

  /** Seats of accounts that are read one after the other. */
  interface Reading {
    SortedSet<String> of(ObservedAccount account);
  }

  Outcome take(String account, String seat);

  Outcome free(String account, String seat);
}
