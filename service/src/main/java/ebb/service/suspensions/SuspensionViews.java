package ebb.service.suspensions;

import ebb.api.OffAccountView;
import ebb.api.SuspensionView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.service.time.BusinessClock;
import ebb.service.ways.WayViews;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import ebb.store.people.Suspensions;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Suspensions as an operator may see them. */
@Component
public final class SuspensionViews {
  private final BusinessClock clock;
  private final Suspensions suspensions;
  private final People people;
  private final WayViews ways;

  SuspensionViews(BusinessClock clock, Suspensions suspensions, People people, WayViews ways) {
    this.clock = clock;
    this.suspensions = suspensions;
    this.people = people;
    this.ways = ways;
  }

  /** What was ordered of somebody and not ended, be it past or ahead. */
  public List<SuspensionView> of(StatelessSession session, PersonId person, Caller caller) {
    return views(
        session, suspensions.of(session, List.of(person)).getOrDefault(person, List.of()), caller);
  }

  List<SuspensionView> views(StatelessSession session, Collection<Suspension> all, Caller caller) {
    var who = all.stream().map(Suspension::person).collect(Collectors.toCollection(TreeSet::new));
    var known = people.getAll(session, who);
    var off = ways.of(session, who);
    return all.stream()
        .map(one -> view(session, one, known.get(one.person()), off, caller))
        .toList();
  }

  /** Whether an operator is shown why; whoever ordered it knows anyway. */
  static boolean isShown(Suspension suspension, Caller caller) {
    return !suspension.discreet()
        || caller.may(Act.SEE_DISCREET)
        || suspension.by().equals(caller.name());
  }

  private SuspensionView view(
      StatelessSession session,
      Suspension one,
      StoredPerson stored,
      Map<PersonId, List<OffAccountView>> off,
      Caller caller) {
    var isShown = isShown(one, caller);
    return new SuspensionView(
        one.id(),
        one.person().value(),
        stored == null ? "person " + one.person() : stored.displayName(),
        stored == null ? null : stored.person().get(Attributes.DEPARTMENT).orElse(null),
        isShown ? one.reason().word() : null,
        isShown ? one.note() : null,
        one.from(),
        one.until(),
        isShown ? one.review() : null,
        new TreeSet<>(one.applications()),
        one.discreet(),
        one.notices(),
        isShown ? one.by() : null,
        isShown ? suspensions.cause(session, one.id()) : null,
        one.isInForceOn(clock.today()),
        off.getOrDefault(one.person(), List.of()));
  }
}
