package ebb.connectors.seats;

import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;

/**
 * The values of an attribute stand for seats: entitlements, or one that names a plan.
 *
 * @param seats the values that do; empty for all of them
 */
record ByAttribute(Connector accounts, String attribute, Set<String> seats) implements SeatWay {
  /** Attributes of several values (RFC 7643, 4.1.2); any other has one seat at a time. */
  private static final Set<String> SEVERAL = Set.of("entitlements", "roles");

  @Override
  public boolean isThere(Set<Part> parts) {
    return true;
  }

  @Override
  public SortedSet<String> of(ObservedAccount account) {
    var taken = new TreeSet<>(account.texts(attribute));
    if (!seats.isEmpty()) {
      taken.retainAll(seats);
    }
    return taken;
  }

  @Override
  public Reading reading() {
    return this::of;
  }

  @Override
  public Outcome take(String account, String seat) {
    return SEVERAL.contains(attribute)
        ? edit(account, values -> values.add(seat))
        : set(account, List.of(seat));
  }

  @Override
  public Outcome free(String account, String seat) {
    return edit(account, values -> values.remove(seat));
  }

  private Outcome edit(String account, Consumer<List<String>> how) {
    try {
      var now = accounts.find(account);
      if (now.isEmpty()) {
        return new Outcome.Refused(gone(account));
      }
      var values = new ArrayList<>(now.get().texts(attribute));
      how.accept(values);
      return set(account, List.copyOf(new TreeSet<>(values)));
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  private Outcome set(String account, List<String> values) {
    var all = new TreeMap<String, List<String>>();
    all.put(attribute, values);
    return accounts.apply(new Instruction.Update(account, all));
  }

  private static Problem gone(String account) {
    return new Problem(
        "account-gone",
        "There is no account %s any more.".formatted(account),
        "Somebody deleted it there.",
        "Sync the application; Ebb then proposes to create it anew.",
        null);
  }
}
