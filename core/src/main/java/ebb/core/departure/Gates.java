package ebb.core.departure;

import ebb.core.application.Level;
import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.handover.Sheet;
import ebb.core.person.Hold;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The gates before the end of an account: a pure function of its case, the holds and the day. */
public final class Gates {
  /** All gates, in the order in which they open on an ordinary departure. */
  public static List<Gate> of(
      Departure departure, AccountCase account, Optional<Hold> hold, LocalDate today) {
    return Stream.of(
            hold(hold),
            paused(departure),
            notReturning(departure),
            suspended(account),
            stock(account),
            recipient(departure, account),
            handover(departure, account),
            uncovered(account),
            references(account),
            waiting(account, today),
            approval(account),
            refusals(account))
        .map(gate -> afterWaiver(gate, account))
        .toList();
  }

  private static Gate afterWaiver(Gate gate, AccountCase account) {
    var reason = account.waivers().get(gate.name());
    return reason == null || gate.isOpen() || !gate.canBeWaived() ? gate : gate.waived(reason);
  }

  private static Gate hold(Optional<Hold> hold) {
    return hold.map(
            order ->
                Gate.shutForNow(
                    "hold",
                    "A hold set by %s is in force%s: %s."
                        .formatted(
                            order.setBy(),
                            order.until() == null ? "" : " until " + order.until(),
                            order.reason()),
                    order.until() == null
                        ? "Nothing is removed until the hold is lifted."
                        : "Nothing is removed before it ends or is lifted."))
        .orElseGet(() -> Gate.open("hold", "No hold is in force."));
  }

  private static Gate paused(Departure departure) {
    return departure.paused() == null
        ? Gate.open("paused", "It goes on.")
        : Gate.shutForNow(
            "paused",
            "It was paused %s.".formatted(departure.paused()),
            "Let it go on once that is settled.");
  }

  private static Gate notReturning(Departure departure) {
    if (!departure.asksReturn()) {
      return Gate.open("return", "Nobody has to say that they are not coming back.");
    }
    return departure.notReturning() != null
        ? Gate.open("return", "They are not coming back: %s.".formatted(departure.notReturning()))
        : Gate.shut(
            "return",
            "Nobody has said that they are not coming back.",
            "Ask their manager, and say so; or give them a later last day.");
  }

  private static Gate suspended(AccountCase account) {
    return account.level() == Level.SUSPENDED
        ? Gate.open("suspended", "The account is suspended.")
        : Gate.shutForNow(
            "suspended",
            "The account is still %s.".formatted(account.level().word()),
            "Release the change set that suspends it, or retry the change.");
  }

  private static Gate stock(AccountCase account) {
    if (account.ownsNothing() != null) {
      return Gate.open("stock", "Accounts here own nothing: " + account.ownsNothing() + ".");
    }
    if (!account.canTellOwnership()) {
      return Gate.notKnown(
          "stock",
          "%s cannot say what an account owns.".formatted(account.application()),
          "Look there, and waive this gate with what you found.");
    }
    if (account.sheet() == null) {
      return account.problem() == null
          ? Gate.shutForNow(
              "stock",
              "Stock has not been taken yet.",
              "It is taken once the account is suspended.")
          : Gate.shut(
              "stock",
              "Stock could not be taken: " + account.problem().what(),
              "Mend what it says, then retry.");
    }
    return Gate.open("stock", "Owned when stock was taken: " + words(account) + ".");
  }

  private static Gate recipient(Departure departure, AccountCase account) {
    if (hasNothingToHandOver(account)) {
      return Gate.open("recipient", "There is nothing to hand over.");
    }
    return account.recipient() != null
        ? Gate.open(
            "recipient",
            departure.accepted() == null
                ? "All of it goes to %s.".formatted(account.recipient())
                : "All of it goes to %s, who takes it.".formatted(account.recipient()))
        : Gate.shut(
            "recipient",
            departure.declined() == null
                ? "Nobody is named who gets what the account owns."
                : "Nobody gets what the account owns: declined by %s."
                    .formatted(departure.declined()),
            "Name somebody with an account there as recipient.");
  }

  private static Gate handover(Departure departure, AccountCase account) {
    if (hasNothingToHandOver(account)) {
      return Gate.open("handover", "There is nothing to hand over.");
    }
    return switch (account.handover()) {
      case PROVEN ->
          Gate.open(
              "handover",
              "Count and checksums were found right at %s.".formatted(account.recipient()));
      case RUNNING ->
          account.problem() == null
              ? Gate.shutForNow("handover", "The handover is under way.", "Wait for its proof.")
              : Gate.shut(
                  "handover",
                  "The handover waits: " + account.problem().what(),
                  account.problem().remedy() + " It goes on by itself.");
      case NONE ->
          Gate.shutForNow(
              "handover",
              "Nothing has been handed over yet; that begins on %s."
                  .formatted(departure.handOverFrom()),
              "It starts by itself once stock is taken and a recipient is named.");
      case FAILED ->
          Gate.shut(
              "handover",
              "The handover failed: " + account.problem().what(),
              account.problem().remedy());
    };
  }

  private static Gate uncovered(AccountCase account) {
    var kinds = account.sheet() == null ? List.<String>of() : account.sheet().uncovered();
    return kinds.isEmpty()
        ? Gate.open("uncovered", "No kind of data is left out of the handover.")
        : Gate.shut(
            "uncovered",
            "%s cannot hand over: %s.".formatted(account.application(), String.join(", ", kinds)),
            "Save it by other means, then waive this gate with a reason.");
  }

  private static Gate references(AccountCase account) {
    if (!account.canTellReferences()) {
      return Gate.notKnown(
          "references",
          "%s cannot say what refers to the account.".formatted(account.application()),
          "Look there, and waive this gate with what you found.");
    }
    if (account.references() == null) {
      return Gate.shutForNow(
          "references", "It was not asked yet what refers to the account.", "It is asked daily.");
    }
    return account.references().isEmpty()
        ? Gate.open("references", "Nothing refers to the account any more.")
        : Gate.shut(
            "references",
            "Still refer to it: "
                + account.references().stream()
                    .limit(5)
                    .map(Reference::what)
                    .collect(Collectors.joining(", "))
                + (account.references().size() > 5
                    ? " and %d more.".formatted(account.references().size() - 5)
                    : "."),
            "Give them to somebody else in the application.");
  }

  private static Gate waiting(AccountCase account, LocalDate today) {
    return today.isBefore(account.deleteFrom())
        ? Gate.shutForNow(
            "waiting",
            "The waiting time runs until %s.".formatted(account.deleteFrom()),
            "Nothing need be done: it opens by itself.")
        : Gate.open(
            "waiting", "The waiting time is over since %s.".formatted(account.deleteFrom()));
  }

  /** Somebody who decided nothing about the account looks at what is lost with it. */
  private static Gate approval(AccountCase account) {
    if (!account.asksApproval()) {
      return Gate.open("approval", "It owned too little for a second person to be asked.");
    }
    var approved = account.waivers().get(AccountCase.APPROVAL);
    if (approved != null) {
      return Gate.open("approval", "Approved by " + approved + ".");
    }
    var why =
        "It owned %,d things; for more than %,d a second person approves."
            .formatted(account.sheet().count(), account.removal().alone());
    return account.handover() == Handover.PROVEN || hasNothingToHandOver(account)
        ? Gate.shut(
            "approval",
            why,
            "An administrator who decided nothing else about it looks at the sheet, and approves.")
        : Gate.shutForNow("approval", why, "They are asked once it is handed over.");
  }

  /**
   * A removal of many stops by itself: what is refused for all is not tried for each. Those that
   * were refused need somebody, and not each of those that wait for them.
   */
  private static Gate refusals(AccountCase account) {
    return account.removal().refused() < Removal.MOST_REFUSED
        ? Gate.open(Gate.REFUSALS, "%s does not refuse removals.".formatted(account.application()))
        : Gate.shutForNow(
            Gate.REFUSALS,
            "%s refused the last %d removals, within a day."
                .formatted(account.application(), account.removal().refused()),
            "Now names those that were refused: mend why, and retry one (ebb changes retry ID). When"
                + " it goes through, the others follow.");
  }

  private static boolean hasNothingToHandOver(AccountCase account) {
    return account.ownsNothing() != null
        || !account.canTellOwnership()
        || (account.sheet() != null
            && account.sheet().lines().values().stream().noneMatch(Sheet.Line::canBeHandedOver));
  }

  private static String words(AccountCase account) {
    return account.sheet().lines().isEmpty()
        ? "nothing"
        : account.sheet().lines().entrySet().stream()
            .map(
                line ->
                    "%s: %,d (%s)"
                        .formatted(
                            line.getKey(),
                            line.getValue().count(),
                            Sheet.size(line.getValue().bytes())))
            .collect(Collectors.joining(", "));
  }

  private Gates() {}
}
