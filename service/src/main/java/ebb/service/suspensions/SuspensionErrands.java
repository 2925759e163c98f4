package ebb.service.suspensions;

import ebb.api.ErrandView;
import ebb.core.operator.Caller;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.service.errand.Errands;
import ebb.service.time.BusinessClock;
import ebb.store.people.People;
import ebb.store.people.Suspensions;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Suspensions that were to be looked at again by now. */
@Component
final class SuspensionErrands implements Errands {
  private final BusinessClock clock;
  private final Suspensions suspensions;
  private final People people;

  SuspensionErrands(BusinessClock clock, Suspensions suspensions, People people) {
    this.clock = clock;
    this.suspensions = suspensions;
    this.people = people;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    var due =
        suspensions.toReview(session, clock.today(), caller.reach(), MOST).stream()
            .filter(one -> SuspensionViews.isShown(one, caller))
            .toList();
    var names =
        people.displayNames(
            session,
            due.stream().map(Suspension::person).collect(Collectors.toCollection(TreeSet::new)));
    return due.stream().map(one -> errand(one, names)).toList();
  }

  private ErrandView errand(Suspension one, Map<PersonId, String> names) {
    return new ErrandView(
        WAITING,
        "person",
        one.person().toString(),
        "Suspension of " + names.getOrDefault(one.person(), "person " + one.person()),
        "Off since %s (%s), to be looked at again on %s; their seats still cost."
            .formatted(one.from(), one.reason().word(), one.review()),
        "Bring them back, or name a later day",
        one.review().atStartOfDay(clock.zone()).toInstant());
  }
}
