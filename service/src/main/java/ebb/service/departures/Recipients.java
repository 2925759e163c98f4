package ebb.service.departures;

import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.service.time.BusinessClock;
import ebb.store.departures.Successors;
import ebb.store.people.People;
import ebb.store.people.Suspensions;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Who gets what somebody leaves behind, unless an operator names another. */
@Component
final class Recipients {
  private final BusinessClock clock;
  private final People people;
  private final Successors successors;
  private final Suspensions suspensions;

  Recipients(BusinessClock clock, People people, Successors successors, Suspensions suspensions) {
    this.clock = clock;
    this.people = people;
    this.successors = successors;
    this.suspensions = suspensions;
  }

  /**
   * The named successor, or the nearest manager above who is here on the day of the handover.
   *
   * @return empty if there is none
   */
  Optional<PersonId> of(StatelessSession session, Person leaver, LocalDate handOverFrom) {
    return successors
        .of(session, leaver.id())
        .filter(id -> isHere(session, id, handOverFrom))
        .or(() -> manager(session, leaver, handOverFrom));
  }

  private Optional<PersonId> manager(StatelessSession session, Person leaver, LocalDate day) {
    return people
        .above(session, leaver)
        .map(Person::id)
        .filter(id -> isHere(session, id, day))
        .findFirst();
  }

  private boolean isHere(StatelessSession session, PersonId id, LocalDate day) {
    var person = people.get(session, id).map(stored -> stored.person());
    return person
            .filter(one -> one.stage(clock.instant(), clock.zone()) != Stage.DEPARTED)
            .filter(one -> one.date(Attributes.END_DATE).filter(day::isAfter).isEmpty())
            .isPresent()
        && suspensions.of(session, List.of(id)).getOrDefault(id, List.of()).stream()
            .noneMatch(one -> one.isInForceOn(clock.today()));
  }
}
