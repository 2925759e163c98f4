package ebb.core.application;

import java.util.List;
import java.util.function.BiConsumer;

/** Tells an application who takes which seat, and asks it how many there are. */
public interface Seats {
  /**
   * @param total how many may be taken; null if there is no limit, or none is known
   */
  record Seat(String id, String name, Long total, long taken) {}

  List<Seat> all() throws Unreachable;

  /** Ids of the seats an account takes. */
  List<String> of(String accountId) throws Unreachable;

  /** Reads all that are taken, page by page: the seat, and the account that takes it. */
  void each(BiConsumer<String, String> taken) throws Unreachable;

  /** Called twice, the second finds it taken. */
  Outcome take(String accountId, String seat);

  /** Called twice, the second finds it freed. */
  Outcome free(String accountId, String seat);
}
