package ebb.service.departures;

import ebb.core.application.Application;
import ebb.core.application.Part;
import ebb.core.change.ChangeKind;
import ebb.core.departure.AccountCase;
import ebb.core.departure.Departure;
import ebb.core.departure.Gate;
import ebb.core.departure.Gates;
import ebb.core.departure.Next;
import ebb.core.departure.Removal;
import ebb.core.departure.Removal.Ending;
import ebb.core.guard.Limit;
import ebb.service.connections.Connections;
import ebb.service.connections.Endings;
import ebb.service.limits.LimitBook;
import ebb.service.time.BusinessClock;
import ebb.service.ways.WayViews;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.people.Holds;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Gathers what the gates of an account are a function of. */
@Component
final class GateKeeper {
  private final BusinessClock clock;
  private final Connections connections;
  private final Departures departures;
  private final Accounts accounts;
  private final Applications applications;
  private final Holds holds;
  private final WayViews ways;
  private final LimitBook limits;
  private final Sharing sharing;
  private final Refusals refusals;

  GateKeeper(
      BusinessClock clock,
      Connections connections,
      Departures departures,
      Accounts accounts,
      Applications applications,
      Holds holds,
      WayViews ways,
      LimitBook limits,
      Sharing sharing,
      Refusals refusals) {
    this.refusals = refusals;
    this.sharing = sharing;
    this.limits = limits;
    this.ways = ways;
    this.clock = clock;
    this.connections = connections;
    this.departures = departures;
    this.accounts = accounts;
    this.applications = applications;
    this.holds = holds;
  }

  List<Gate> gates(StatelessSession session, DepartureAccount part) {
    var departure = departures.get(session, part.departure()).orElseThrow();
    return gates(session, departure, caseOf(session, departure, part));
  }

  List<Gate> gates(StatelessSession session, Departure departure, AccountCase account) {
    return Gates.of(
        departure,
        account,
        holds.inForce(session, departure.person(), clock.today()),
        clock.today());
  }

  /** The gates of an account as they stand, and what is to be done next with it by them. */
  record Found(List<Gate> gates, Next next, Ending ending) {
    Set<String> shut() {
      return gates.stream()
          .filter(gate -> !gate.isOpen())
          .map(Gate::name)
          .collect(Collectors.toSet());
    }
  }

  Found found(StatelessSession session, DepartureAccount part) {
    return found(session, part, List.of());
  }

  /**
   * @param past these gates are not asked
   */
  private Found found(StatelessSession session, DepartureAccount part, List<String> past) {
    var departure = departures.get(session, part.departure()).orElseThrow();
    var account = caseOf(session, departure, part);
    var asked =
        gates(session, departure, account).stream()
            .filter(gate -> !past.contains(gate.name()))
            .toList();
    return new Found(
        asked, Next.of(departure, account, asked, clock.today()), account.removal().ending());
  }

  /**
   * Why it may not come to its end now; empty if it may.
   *
   * @param kind the change that is about to be carried out
   * @param wasAsked whether the application was asked before: then it does not wait for others
   */
  Optional<String> against(
      StatelessSession session, DepartureAccount part, ChangeKind kind, boolean wasAsked) {
    var found = found(session, part, wasAsked ? List.of(Gate.REFUSALS) : List.of());
    return found.gates().stream()
        .filter(gate -> !gate.isOpen())
        .findFirst()
        .map(Gate::why)
        .or(
            () ->
                found.next() == Next.REMOVE && found.ending().kind().equals(Optional.of(kind))
                    ? Optional.empty()
                    : Optional.of("it can be restored, or is to stay"));
  }

  AccountCase caseOf(StatelessSession session, Departure departure, DepartureAccount part) {
    var capabilities = connections.capabilities(part.application());
    var account = accounts.get(session, part.account()).orElseThrow();
    var application = applications.get(session, part.application()).orElseThrow();
    return new AccountCase(
        part.application(),
        account.level(),
        application.ownsNothing(),
        capabilities.has(Part.OWNERSHIP),
        capabilities.has(Part.REFERENCES),
        part.sheet(),
        part.references(),
        sharing.of(session, departure, application).words(part.sheet()),
        part.handover(),
        part.provenAt(),
        part.problem(),
        part.waivers(),
        part.deleteFrom(),
        ways.standing(session, account),
        part.stays(),
        removal(session, application),
        part.restorableUntil());
  }

  private Removal removal(StatelessSession session, Application application) {
    return new Removal(
        Endings.of(application),
        Endings.restoreDays(application),
        (long) limits.limits(session).of(Limit.OWNED, application.name()),
        refusals.inARow(session, application.name()));
  }
}
