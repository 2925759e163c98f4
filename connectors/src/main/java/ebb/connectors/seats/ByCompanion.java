package ebb.connectors.seats;

import ebb.core.application.Connector;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;

/** The companion interface says who takes which seat. */
record ByCompanion(Connector accounts) implements SeatWay {
  @Override
  public boolean isThere(Set<Part> parts) {
    return parts.contains(Part.SEATS);
  }

  @Override
  public SortedSet<String> of(ObservedAccount account) throws Unreachable {
    var seats = accounts.seats();
    return seats.isEmpty() ? new TreeSet<>() : new TreeSet<>(seats.get().of(account.id()));
  }

  @Override
  public Reading reading() throws Unreachable {
    Map<String, SortedSet<String>> taken = new HashMap<>();
    var seats = accounts.seats();
    if (seats.isPresent()) {
      seats
          .get()
          .each((seat, account) -> taken.computeIfAbsent(account, _ -> new TreeSet<>()).add(seat));
    }
    return account -> taken.getOrDefault(account.id(), new TreeSet<>());
  }

  @Override
  public Outcome take(String account, String seat) {
    return accounts.seats().map(seats -> seats.take(account, seat)).orElseGet(ByCompanion::none);
  }

  @Override
  public Outcome free(String account, String seat) {
    return accounts.seats().map(seats -> seats.free(account, seat)).orElseGet(ByCompanion::none);
  }

  private static Outcome none() {
    return new Outcome.Refused(
        new Problem(
            "seats-unknown",
            "The application offers no seats any more.",
            "Its companion interface left that part out.",
            "Say in its settings what stands for a seat there, or take the seat out of the rule.",
            null));
  }
}
