package ebb.service.notices;

import ebb.core.application.Level;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import ebb.service.time.BusinessClock;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import ebb.store.people.Suspensions;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Where mail reaches people. */
@Component
public final class Addresses {
  private final BusinessClock clock;
  private final Accounts accounts;
  private final People people;
  private final Suspensions suspensions;

  Addresses(BusinessClock clock, Accounts accounts, People people, Suspensions suspensions) {
    this.clock = clock;
    this.accounts = accounts;
    this.people = people;
    this.suspensions = suspensions;
  }

  /**
   * Where somebody is reached who can act on it: at work, or at a private address where there is no
   * other.
   *
   * @return empty for whoever is suspended, away without a mailbox, or has departed; for somebody
   *     suspended whose notices go on, the private address
   */
  public Optional<String> atWork(StatelessSession session, PersonId id) {
    return people.get(session, id).map(StoredPerson::person).flatMap(one -> reached(session, one));
  }

  private Optional<String> reached(StatelessSession session, Person person) {
    var stage = person.stage(clock.instant(), clock.zone());
    if (stage == Stage.DEPARTED) {
      return Optional.empty();
    }
    var keptOut =
        suspensions.of(session, List.of(person.id())).getOrDefault(person.id(), List.of()).stream()
            .filter(one -> one.applications().isEmpty() && one.isInForceOn(clock.today()))
            .toList();
    var home = person.get(Attributes.HOME_EMAIL);
    if (!keptOut.isEmpty()) {
      return home.filter(_ -> keptOut.stream().anyMatch(Suspension::notices));
    }
    return ofWork(session, person.id(), account -> account.level() != Level.SUSPENDED)
        .or(() -> home.filter(_ -> stage != Stage.AWAY));
  }

  /** Where the nearest manager above somebody is reached who can be; empty if there is none. */
  public Optional<String> above(StatelessSession session, Person person) {
    return people.above(session, person).flatMap(one -> reached(session, one).stream()).findFirst();
  }

  /** Their address at work, which anybody may know; empty if there is none. */
  public Optional<String> ofWork(StatelessSession session, PersonId id) {
    return ofWork(session, id, _ -> true);
  }

  private Optional<String> ofWork(StatelessSession session, PersonId id, Predicate<Account> which) {
    return accounts.of(session, List.of(id)).getOrDefault(id, List.of()).stream()
        .filter(account -> account.level().exists())
        .filter(which)
        .flatMap(account -> account.observed().texts("emails.work").stream())
        .findFirst();
  }
}
