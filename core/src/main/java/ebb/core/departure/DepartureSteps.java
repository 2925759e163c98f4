package ebb.core.departure;

import ebb.core.application.Level;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.DepartureStep.State;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The line of a departure: what is done, what is next, and its end. Pure. */
public final class DepartureSteps {
  /** How the reason of one begins that follows from a date. */
  private static final String BY_DATE = "last day";

  /** Gates that keep all else from going on, whatever day it is. */
  private static final Set<String> KEEPERS = Set.of("hold", "paused", Gate.REFUSALS);

  /**
   * An account of a departure, and its gates.
   *
   * @param reply null where nothing answers for it
   */
  public record Part(AccountCase account, List<Gate> gates, AutomaticReply reply) {
    public Part(AccountCase account, List<Gate> gates) {
      this(account, gates, null);
    }

    boolean isOver() {
      return account.level() == Level.GONE || account.stays();
    }
  }

  private final Departure departure;
  private final List<Part> parts;
  private final List<Part> open;
  private final LocalDate today;

  private DepartureSteps(Departure departure, List<Part> parts, LocalDate today) {
    this.departure = departure;
    this.parts = parts;
    this.open = parts.stream().filter(part -> !part.isOver()).toList();
    this.today = today;
  }

  /** In the order in which they come on an ordinary departure. */
  public static List<DepartureStep> of(Departure departure, List<Part> parts, LocalDate today) {
    return new DepartureSteps(departure, parts, today).all();
  }

  private List<DepartureStep> all() {
    var steps = new ArrayList<DepartureStep>();
    steps.add(lastDay());
    steps.add(off());
    steps.add(waysIn());
    reply().ifPresent(steps::add);
    if (departure.asksReturn()) {
      steps.add(by("return", Set.of("return"), null, "They are not coming back."));
    }
    steps.add(by("stock", Set.of("stock"), null, "What the accounts own is known."));
    steps.add(
        by(
            "handover",
            Set.of("recipient", "handover", "uncovered"),
            departure.handOverFrom(),
            parts.stream().anyMatch(part -> part.account().handover() == Handover.PROVEN)
                ? "What they owned is with somebody else, and that is proven."
                : "There was nothing to hand over."));
    steps.add(by("references", Set.of("references"), null, "Nothing refers to them any more."));
    if (parts.stream().anyMatch(part -> part.account().asksApproval())) {
      steps.add(approval());
    }
    steps.add(
        by("waiting", Set.of("waiting"), lastOf(AccountCase::deleteFrom), "The wait is over."));
    if (parts.stream().anyMatch(DepartureSteps::isRestorable)) {
      steps.add(restoring());
    }
    steps.add(removal());
    return steps;
  }

  private DepartureStep lastDay() {
    var isOver = today.isAfter(departure.lastDay());
    return new DepartureStep(
        "last day",
        isOver || departure.kind() != Departure.Kind.DEPARTURE ? State.DONE : State.AHEAD,
        departure.lastDay(),
        departure.reason().startsWith(BY_DATE)
            ? isOver ? "It is over." : "Until then nothing changes."
            : departure.reason());
  }

  private DepartureStep off() {
    var off =
        parts.stream()
            .filter(part -> part.isOver() || part.account().level() == Level.SUSPENDED)
            .count();
    return new DepartureStep(
        "off",
        off == parts.size() ? State.DONE : State.UNDER_WAY,
        null,
        off == parts.size()
            ? "All of it is off."
            : "%d of %d accounts are off.".formatted(off, parts.size()));
  }

  private DepartureStep waysIn() {
    var still = withWaysIn("still open");
    if (!still.isEmpty()) {
      return new DepartureStep(
          "ways in",
          State.UNDER_WAY,
          null,
          "Still open in %s: what does not shut by itself stands with the person."
              .formatted(still));
    }
    var asked = withWaysIn("being asked");
    if (!asked.isEmpty()) {
      return new DepartureStep(
          "ways in", State.UNDER_WAY, null, "%s is being asked.".formatted(asked));
    }
    var unknown = withWaysIn("not known");
    return new DepartureStep(
        "ways in",
        State.DONE,
        null,
        unknown.isEmpty()
            ? "Nothing is open any more."
            : "Not known in %s; whatever is open ends with the account.".formatted(unknown));
  }

  /** Empty where nothing is to answer for them. */
  private Optional<DepartureStep> reply() {
    var replies = parts.stream().map(Part::reply).filter(Objects::nonNull).toList();
    return replies.stream()
        .filter(reply -> reply.state() == AutomaticReply.State.WANTED)
        .findFirst()
        .map(
            wanted ->
                new DepartureStep(
                    "reply",
                    State.UNDER_WAY,
                    null,
                    wanted.problem() == null
                        ? "The automatic reply is being set."
                        : "The automatic reply is not set yet: " + wanted.problem().what()))
        .or(
            () ->
                replies.stream()
                    .map(AutomaticReply::until)
                    .max(Comparator.naturalOrder())
                    .map(
                        until ->
                            new DepartureStep(
                                "reply",
                                State.DONE,
                                null,
                                today.isAfter(until)
                                    ? "The automatic reply ended on %s.".formatted(until)
                                    : "Whoever writes is answered, until %s.".formatted(until))));
  }

  private String withWaysIn(String standing) {
    return open.stream()
        .map(Part::account)
        .filter(account -> account.level() == Level.SUSPENDED)
        .filter(account -> standing.equals(account.waysIn()))
        .map(AccountCase::application)
        .collect(Collectors.joining(", "));
  }

  /** A step is done when its gates are open everywhere. */
  private DepartureStep by(String name, Set<String> gates, LocalDate day, String done) {
    var shut = shut(gates);
    if (shut.isEmpty()) {
      return new DepartureStep(name, State.DONE, day, done);
    }
    var why = shut.getFirst().why();
    var isAhead = day != null && today.isBefore(day);
    return shut.stream()
        .filter(Gate::needsSomebody)
        .findFirst()
        .map(gate -> new DepartureStep(name, State.WAITS, day, gate.why()))
        .orElseGet(
            () -> new DepartureStep(name, isAhead ? State.AHEAD : State.UNDER_WAY, day, why));
  }

  /** Ahead until there is something to look at. */
  private DepartureStep approval() {
    var step = by("approval", Set.of("approval"), null, "A second person has approved.");
    return step.state() == State.UNDER_WAY
        ? new DepartureStep(step.name(), State.AHEAD, null, step.words())
        : step;
  }

  private List<Gate> shut(Set<String> names) {
    return open.stream()
        .flatMap(part -> part.gates().stream())
        .filter(gate -> names.contains(gate.name()) && !gate.isOpen())
        .toList();
  }

  private static boolean isRestorable(Part part) {
    return part.account().restorableUntil() != null
        || (part.account().removal().restoreDays() > 0 && !part.isOver());
  }

  private DepartureStep restoring() {
    var waiting = open.stream().map(Part::account).filter(one -> one.restorableUntil() == null);
    var days = waiting.mapToInt(one -> one.removal().restoreDays()).max().orElse(0);
    var until =
        parts.stream()
            .map(part -> part.account().restorableUntil())
            .filter(Objects::nonNull)
            .max(Comparator.naturalOrder())
            .orElse(null);
    if (open.isEmpty() || (days == 0 && today.isAfter(until))) {
      return new DepartureStep("restore", State.DONE, until, "Nobody asked for it back.");
    }
    return until == null
        ? new DepartureStep(
            "restore",
            State.AHEAD,
            null,
            "After that it can be restored for %d days.".formatted(days))
        : new DepartureStep(
            "restore",
            State.UNDER_WAY,
            until,
            "It can be restored until %s, for %d days more."
                .formatted(until, Math.max(0, ChronoUnit.DAYS.between(today, until))));
  }

  private DepartureStep removal() {
    var day = lastOf(AccountCase::deleteFrom);
    if (open.isEmpty()) {
      return new DepartureStep("removal", State.DONE, day, "Nothing is left to be done.");
    }
    var over = parts.size() - open.size();
    var kept = open.stream().flatMap(part -> part.gates().stream()).filter(DepartureSteps::keeps);
    return new DepartureStep(
        "removal",
        State.AHEAD,
        day,
        kept.findFirst()
            .map(Gate::why)
            .orElse(
                over == 0
                    ? "Nothing has been removed yet."
                    : "%d of %d accounts are done with.".formatted(over, parts.size())));
  }

  private static boolean keeps(Gate gate) {
    return !gate.isOpen() && KEEPERS.contains(gate.name());
  }

  private LocalDate lastOf(Function<AccountCase, LocalDate> day) {
    return parts.stream()
        .map(Part::account)
        .map(day)
        .max(Comparator.naturalOrder())
        .orElse(departure.lastDay());
  }
}
