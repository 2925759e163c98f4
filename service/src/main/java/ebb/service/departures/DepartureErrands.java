package ebb.service.departures;

import ebb.api.ErrandView;
import ebb.core.departure.Departure;
import ebb.core.departure.Gate;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.service.time.BusinessClock;
import ebb.store.departures.Departures;
import ebb.store.people.People;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Departures with a gate that does not open by itself, or whose end cannot be undone. */
@Component
final class DepartureErrands implements Errands {
  /** A weekend, and a day to ask somebody. */
  private static final int DAYS_AHEAD = 4;

  private final Departures departures;
  private final People people;
  private final GateKeeper gates;
  private final BusinessClock clock;

  DepartureErrands(Departures departures, People people, GateKeeper gates, BusinessClock clock) {
    this.clock = clock;
    this.departures = departures;
    this.people = people;
    this.gates = gates;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return departures
        .list(session, Departure.State.RUNNING, caller.reach(), null, MOST)
        .items()
        .stream()
        .flatMap(departure -> errand(session, departure).stream())
        .toList();
  }

  private Optional<ErrandView> errand(StatelessSession session, Departure departure) {
    return waiting(session, departure).or(() -> ending(session, departure));
  }

  /** The last days on which an account can be restored. */
  private Optional<ErrandView> ending(StatelessSession session, Departure departure) {
    return departures.accounts(session, departure.id()).stream()
        .filter(part -> part.restorableUntil() != null && !part.endAsked())
        .filter(part -> clock.today().plusDays(DAYS_AHEAD).isAfter(part.restorableUntil()))
        .findFirst()
        .map(
            part ->
                new ErrandView(
                    WAITING,
                    "departure",
                    Long.toString(departure.id()),
                    "Departure of " + name(session, departure),
                    "Until %s the account in %s can be restored; after that it %s for good."
                        .formatted(
                            part.restorableUntil(),
                            part.application(),
                            gates.found(session, part).ending().words()),
                    "Restore it, or let it go",
                    departure.startedAt()));
  }

  private Optional<ErrandView> waiting(StatelessSession session, Departure departure) {
    return departures.accounts(session, departure.id()).stream()
        .flatMap(part -> gates.gates(session, part).stream())
        .filter(Gate::needsSomebody)
        .findFirst()
        .map(
            gate ->
                new ErrandView(
                    WAITING,
                    "departure",
                    Long.toString(departure.id()),
                    "Departure of " + name(session, departure),
                    gate.why(),
                    act(gate),
                    departure.startedAt()));
  }

  private static String act(Gate gate) {
    return switch (gate.name()) {
      case "recipient" -> "Name a recipient";
      case "approval" -> "Approve its removal, or say why not";
      case "return" -> "Say whether they come back";
      default -> "Open the gate";
    };
  }

  private String name(StatelessSession session, Departure departure) {
    return people
        .displayNames(session, Set.of(departure.person()))
        .getOrDefault(departure.person(), "person " + departure.person());
  }
}
