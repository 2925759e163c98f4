package ebb.service.emergency;

import ebb.api.EmergencyAccountView;
import ebb.api.EmergencyStopView;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeState;
import ebb.core.person.EmergencyStop;
import ebb.core.person.PersonId;
import ebb.service.web.AccountViews;
import ebb.service.web.Problems;
import ebb.store.applications.Account;
import ebb.store.changes.Changes;
import ebb.store.people.EmergencyStops;
import ebb.store.people.People;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** How far emergency stops have come. */
@Component
public final class EmergencyViews {
  private static final String SHUT = "shut";
  private static final String BEING_SHUT = "being shut";
  private static final String REFUSED = "refused";
  private static final String NOT_KNOWN = "not known";

  private final EmergencyDesk desk;
  private final EmergencyStops stops;
  private final Changes changes;
  private final People people;

  EmergencyViews(EmergencyDesk desk, EmergencyStops stops, Changes changes, People people) {
    this.stops = stops;
    this.desk = desk;
    this.changes = changes;
    this.people = people;
  }

  /** Empty unless the person is stopped. */
  public Optional<EmergencyStopView> of(StatelessSession session, PersonId person) {
    return stops.of(session, person).map(stop -> view(session, stop));
  }

  EmergencyStopView view(StatelessSession session, EmergencyStop stop) {
    var orders = changes.ofPersonInSet(session, stop.changeSet(), stop.person());
    var accounts =
        desk.existing(session, stop.person()).stream()
            .map(account -> view(account, orders))
            .toList();
    return new EmergencyStopView(
        stop.person().value(),
        people
            .displayNames(session, Set.of(stop.person()))
            .getOrDefault(stop.person(), "person " + stop.person()),
        stop.since(),
        stop.by(),
        stop.reason(),
        stop.changeSet(),
        accounts.stream().allMatch(one -> one.signIn().equals(SHUT) && one.waysIn().equals(SHUT)),
        accounts);
  }

  private EmergencyAccountView view(Account account, List<Change> orders) {
    var suspend = of(orders, account, ChangeKind.SUSPEND);
    var shut = of(orders, account, ChangeKind.SHUT);
    return new EmergencyAccountView(
        account.application(),
        AccountViews.name(account),
        account.observed().usable() ? suspend.map(EmergencyViews::word).orElse(BEING_SHUT) : SHUT,
        suspend.map(Change::seenAt).orElse(null),
        shut.map(EmergencyViews::word).orElse(desk.saysWaysIn(account) ? BEING_SHUT : NOT_KNOWN),
        shut.map(Change::seenAt).orElse(null),
        Stream.of(suspend, shut)
            .flatMap(Optional::stream)
            .filter(change -> !change.state().isOver() && change.problem() != null)
            .findFirst()
            .map(change -> Problems.view(change.problem()))
            .orElse(null));
  }

  private static Optional<Change> of(List<Change> orders, Account account, ChangeKind kind) {
    return orders.stream()
        .filter(change -> change.application().equals(account.application()))
        .filter(change -> change.kind() == kind)
        .findFirst();
  }

  private static String word(Change change) {
    return change.state().isOver()
        ? SHUT
        : change.state() == ChangeState.REFUSED ? REFUSED : BEING_SHUT;
  }
}
