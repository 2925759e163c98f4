package ebb.core.execution;

import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Takes all that is personal out of an account: it leaves its groups, frees its seats, and every
 * value that Ebb may write goes, or gives way to a stand-in where the application demands one.
 */
final class Strip {
  /** No mail ever goes there: RFC 2606, section 2. */
  private static final String NO_DOMAIN = "@stripped.invalid";

  static Outcome apply(Connector connector, String account, String standIn) {
    try {
      var found = connector.find(account);
      if (found.isEmpty()) {
        return new Outcome.AlreadyInPlace(Optional.empty());
      }
      var capabilities = connector.capabilities();
      for (var instruction : instructions(found.get(), capabilities, standIn)) {
        var outcome = connector.apply(instruction);
        if (!(outcome instanceof Outcome.Applied || outcome instanceof Outcome.AlreadyInPlace)) {
          return outcome;
        }
      }
      return seen(connector.find(account), capabilities, standIn);
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  /** Names come last: a group that is left is left by its member's old name. */
  private static List<Instruction> instructions(
      ObservedAccount account, Capabilities capabilities, String standIn) {
    var id = account.id();
    var values = values(account, capabilities, standIn);
    return Stream.of(
            account.groups().stream().map(group -> new Instruction.Leave(id, group)),
            account.seats().stream().map(seat -> new Instruction.FreeSeat(id, seat)),
            values.isEmpty()
                ? Stream.<Instruction>empty()
                : Stream.of(new Instruction.Update(id, values, account.values())))
        .<Instruction>flatMap(one -> one)
        .toList();
  }

  /** Those that differ from what an account is left with. */
  private static SortedMap<String, List<String>> values(
      ObservedAccount account, Capabilities capabilities, String standIn) {
    var values = new TreeMap<String, List<String>>();
    account
        .values()
        .forEach(
            (attribute, texts) -> {
              var left =
                  capabilities.required().contains(attribute)
                      ? texts.stream().limit(1).map(text -> inPlaceOf(text, standIn)).toList()
                      : List.<String>of();
              if (capabilities.writable().contains(attribute)
                  && !capabilities.equalityOf(attribute).same(left, texts)) {
                values.put(attribute, left);
              }
            });
    return values;
  }

  private static String inPlaceOf(String text, String standIn) {
    return text.contains("@") ? standIn + NO_DOMAIN : standIn;
  }

  private static Outcome seen(
      Optional<ObservedAccount> account, Capabilities capabilities, String standIn) {
    var left = new TreeSet<String>();
    account.ifPresent(
        one -> {
          left.addAll(values(one, capabilities, standIn).keySet());
          left.addAll(one.groups());
          left.addAll(one.seats());
        });
    return left.isEmpty() ? new Outcome.Applied(account) : new Outcome.Met(stillThere(left));
  }

  private static Problem stillThere(TreeSet<String> what) {
    return new Problem(
        "not-stripped",
        "Still there after it was taken out: %s.".formatted(String.join(", ", what)),
        "The application took the order, and shows otherwise.",
        "It is tried again; if that goes on, take it out in the application by hand.",
        null);
  }

  private Strip() {}
}
