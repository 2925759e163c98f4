package ebb.service.departures;

import ebb.api.DepartureAccountView;
import ebb.api.DepartureStepView;
import ebb.api.DepartureView;
import ebb.api.GateView;
import ebb.api.ReplyView;
import ebb.api.SheetLineView;
import ebb.core.application.Level;
import ebb.core.departure.AccountCase;
import ebb.core.departure.AutomaticReply;
import ebb.core.departure.Departure;
import ebb.core.departure.DepartureStep;
import ebb.core.departure.DepartureSteps;
import ebb.core.departure.Gate;
import ebb.core.departure.Removal;
import ebb.core.handover.Piece.State;
import ebb.core.handover.Sheet;
import ebb.core.operator.Act;
import ebb.core.operator.Role;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Problems;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.departures.AutomaticReplies;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import ebb.store.people.People;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Departures as they are shown, with what their gates say at that moment. */
@Component
final class DepartureViews {
  private final BusinessClock clock;
  private final Departures departures;
  private final Accounts accounts;
  private final People people;
  private final GateKeeper gates;
  private final HandoverItems items;
  private final AutomaticReplies replies;
  private final Forgetter forgetter;

  DepartureViews(
      BusinessClock clock,
      Departures departures,
      Accounts accounts,
      People people,
      GateKeeper gates,
      HandoverItems items,
      AutomaticReplies replies,
      Forgetter forgetter) {
    this.forgetter = forgetter;
    this.replies = replies;
    this.items = items;
    this.clock = clock;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.gates = gates;
  }

  DepartureView view(StatelessSession session, Departure departure) {
    var names =
        people.displayNames(
            session,
            departure.recipient() == null
                ? Set.of(departure.person())
                : Set.of(departure.person(), departure.recipient()));
    var parts = departures.accounts(session, departure.id());
    var isRunning = departure.state() == Departure.State.RUNNING;
    var cases =
        parts.stream()
            .map(
                part -> {
                  var account = gates.caseOf(session, departure, part);
                  return new DepartureSteps.Part(
                      account,
                      isRunning ? gates.gates(session, departure, account) : List.of(),
                      replies.of(session, part.id()).orElse(null));
                })
            .toList();
    return new DepartureView(
        departure.id(),
        departure.version(),
        departure.person().value(),
        names.get(departure.person()),
        departure.kind().word(),
        departure.state().word(),
        departure.lastDay(),
        departure.handOverFrom(),
        departure.recipient() == null ? null : departure.recipient().value(),
        departure.recipient() == null ? null : names.get(departure.recipient()),
        departure.reason(),
        departure.paused(),
        departure.asksReturn(),
        departure.notReturning(),
        departure.accepted(),
        departure.declined(),
        isRunning ? turnsBackUntil(cases) : null,
        departure.startedAt(),
        departure.endedAt(),
        steps(session, departure, cases),
        IntStream.range(0, parts.size())
            .mapToObj(i -> view(session, departure, parts.get(i), cases.get(i)))
            .toList());
  }

  /** Of one that is over only what is still to come of it. */
  private List<DepartureStepView> steps(
      StatelessSession session, Departure departure, List<DepartureSteps.Part> cases) {
    var steps = new ArrayList<DepartureStep>();
    if (departure.state() == Departure.State.RUNNING) {
      steps.addAll(DepartureSteps.of(departure, cases, clock.today()));
    }
    forgetter
        .of(session, departure)
        .map(forgetting -> forgetting.step(clock.today()))
        .ifPresent(steps::add);
    return steps.stream().map(DepartureViews::view).toList();
  }

  /** The day from which the first account may be gone; null once one is. */
  private static LocalDate turnsBackUntil(List<DepartureSteps.Part> cases) {
    return cases.stream().anyMatch(part -> part.account().level() == Level.GONE)
        ? null
        : cases.stream()
            .filter(part -> !part.account().stays())
            .map(part -> DepartureViews.deletedFrom(part.account()))
            .min(Comparator.naturalOrder())
            .orElse(null);
  }

  /** The first day on which it may be gone. */
  private static LocalDate deletedFrom(AccountCase account) {
    return account.restorableUntil() == null
        ? account.deleteFrom().plusDays(account.removal().restoreDays())
        : account.restorableUntil().plusDays(1);
  }

  private static DepartureStepView view(DepartureStep step) {
    return new DepartureStepView(step.name(), step.state().word(), step.day(), step.words());
  }

  private DepartureAccountView view(
      StatelessSession session,
      Departure departure,
      DepartureAccount part,
      DepartureSteps.Part found) {
    var account = accounts.get(session, part.account()).orElseThrow();
    var isOver =
        departure.state() != Departure.State.RUNNING
            || account.level() == Level.GONE
            || part.stays();
    var ending = found.account().removal().ending();
    List<Gate> all = isOver ? List.of() : found.gates();
    return new DepartureAccountView(
        part.id(),
        part.application(),
        AccountViews.name(account),
        account.level().word(),
        part.deleteFrom(),
        sheet(session, part),
        part.handover().name().toLowerCase(Locale.ROOT),
        part.provenAt(),
        all.stream().map(gate -> view(gate, part.shutSince().get(gate.name()))).toList(),
        ending.word(),
        next(account, part, all, isOver, ending),
        part.restorableUntil(),
        found.reply() == null ? null : view(found.reply()));
  }

  private static ReplyView view(AutomaticReply reply) {
    return new ReplyView(reply.state().word(), reply.until(), Problems.view(reply.problem()));
  }

  private static String next(
      Account account,
      DepartureAccount part,
      List<Gate> gates,
      boolean isOver,
      Removal.Ending ending) {
    if (part.stays()) {
      return account.strippedAt() == null
          ? "nothing: it stays suspended"
          : "nothing: it was stripped of what is personal, and stays suspended";
    }
    if (isOver) {
      return account.level() == Level.GONE ? "nothing: the account is gone" : "nothing";
    }
    return gates.stream()
        .filter(gate -> !gate.isOpen())
        .findFirst()
        .map(gate -> gate.why() + " " + gate.remedy())
        .orElse(
            part.problem() != null
                ? "it is tried again each minute: %s %s"
                    .formatted(part.problem().what(), part.problem().remedy())
                : part.restorableUntil() == null
                    ? "at any moment it " + ending.words()
                    : "it can be restored until %s; after that it %s"
                        .formatted(part.restorableUntil(), ending.words()));
  }

  private List<SheetLineView> sheet(StatelessSession session, DepartureAccount part) {
    if (part.sheet() == null) {
      return null;
    }
    var states = items.states(session, part.id());
    return part.sheet().lines().entrySet().stream()
        .map(
            line ->
                line(line.getKey(), line.getValue(), states.getOrDefault(line.getKey(), Map.of())))
        .toList();
  }

  private static SheetLineView line(String kind, Sheet.Line line, Map<State, Long> states) {
    return new SheetLineView(
        kind,
        line.count(),
        line.bytes(),
        line.uncovered(),
        states.getOrDefault(State.ARRIVED, 0L),
        states.getOrDefault(State.FAILED, 0L),
        states.getOrDefault(State.LEFT_OUT, 0L),
        states.getOrDefault(State.GONE, 0L));
  }

  private static GateView view(Gate gate, LocalDate shutSince) {
    return new GateView(
        gate.name(),
        gate.state().name().toLowerCase(Locale.ROOT).replace('_', ' '),
        gate.why(),
        gate.remedy(),
        gate.needsSomebody(),
        opener(gate),
        gate.isOpen() ? null : shutSince);
  }

  /** What keeps it shut is said with it; who may end that follows from what operators may do. */
  private static String opener(Gate gate) {
    var act =
        switch (gate.name()) {
          case "hold" -> Act.LIFT_HOLD;
          case "approval" -> Act.APPROVE;
          default -> Act.DEPARTURES;
        };
    var needsOne =
        gate.needsSomebody() || Set.of("hold", "paused", Gate.REFUSALS).contains(gate.name());
    return gate.isOpen() || !needsOne
        ? null
        : act.roles().stream().sorted().map(Role::word).collect(Collectors.joining(" or "));
  }
}
