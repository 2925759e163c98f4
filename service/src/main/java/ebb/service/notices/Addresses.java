package ebb.service.notices;

import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.store.applications.Accounts;
import ebb.store.people.People;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Where mail reaches people. */
@Component
public final class Addresses {
  private final Accounts accounts;
  private final People people;

  Addresses(Accounts accounts, People people) {
    this.accounts = accounts;
    this.people = people;
  }

  /** Where somebody at work is reached; a private address where there is no other. */
  public Optional<String> atWork(StatelessSession session, PersonId id) {
    return ofWork(session, id)
        .or(
            () ->
                people
                    .get(session, id)
                    .flatMap(person -> person.person().get(Attributes.HOME_EMAIL)));
  }

  /** Their address at work, which anybody may know; empty if there is none. */
  public Optional<String> ofWork(StatelessSession session, PersonId id) {
    return accounts.of(session, List.of(id)).getOrDefault(id, List.of()).stream()
        .filter(account -> account.level().exists())
        .flatMap(account -> account.observed().texts("emails.work").stream())
        .findFirst();
  }
}
