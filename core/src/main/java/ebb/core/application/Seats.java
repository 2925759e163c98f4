package ebb.core.application;

import java.util.List;

/** Asks an application how many seats there are of each kind, and how many are taken. */
public interface Seats {
  /**
   * @param total how many may be taken; null if there is no limit
   */
  record Seat(String id, String name, Long total, long taken) {}

  List<Seat> all() throws Unreachable;

  /** Ids of the seats an account takes. */
  List<String> of(String accountId) throws Unreachable;
}
