package ebb.service.notices;

import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.notice.Ask;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Lets a person choose a password. It goes straight to the applications and is kept nowhere. */
@Component
final class Asks {
  static final int SHORTEST = 12;

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final Notices notices;
  private final Accounts accounts;
  private final People people;
  private final Journal journal;

  Asks(
      Database database,
      BusinessClock clock,
      Connections connections,
      Notices notices,
      Accounts accounts,
      People people,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.notices = notices;
    this.accounts = accounts;
    this.people = people;
    this.journal = journal;
  }

  /** What became of a chosen password. */
  sealed interface Answer {
    record Set(List<String> applications) implements Answer {}

    /** Some applications did not take it now; the ask stays open. */
    record NotEverywhere(List<String> set, List<String> open) implements Answer {}

    record TooWeak(String why) implements Answer {}

    record Over() implements Answer {}
  }

  /** Whose ask a token opens; empty if it is unknown, used or over. */
  Optional<StoredPerson> open(String token) {
    return database.read(
        session ->
            notices
                .ask(session, SecretBox.hash(token))
                .filter(ask -> ask.isOpenAt(clock.instant()))
                .flatMap(ask -> people.get(session, ask.person())));
  }

  Answer choose(String token, String password, String again) {
    var person = open(token);
    if (person.isEmpty()) {
      return new Answer.Over();
    }
    var weak = weakness(password, again, person.get());
    if (weak.isPresent()) {
      database.writeAll(session -> notices.countTry(session, SecretBox.hash(token)));
      return new Answer.TooWeak(weak.get());
    }
    var ask = database.write(session -> claim(session, token));
    return ask.map(claimed -> set(claimed, new Secret(password))).orElseGet(Answer.Over::new);
  }

  private Optional<Ask> claim(StatelessSession session, String token) {
    return notices.use(session, SecretBox.hash(token), clock.instant())
        ? notices.ask(session, SecretBox.hash(token))
        : Optional.empty();
  }

  private Answer set(Ask ask, Secret password) {
    var set = new ArrayList<String>();
    var open = new ArrayList<String>();
    for (var account : accountsOf(ask.person())) {
      var outcome =
          connections
              .to(account.application())
              .apply(new Instruction.SetPassword(account.observed().id(), password));
      (outcome instanceof Outcome.Accepted ? set : open).add(account.application());
    }
    database.writeAll(
        session -> {
          if (!open.isEmpty()) {
            notices.reopen(session, ask.tokenHash());
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  "ask " + ask.notice(),
                  "chose a password, taken by %s; not by %s".formatted(set, open),
                  ask.person()));
        });
    return open.isEmpty() ? new Answer.Set(set) : new Answer.NotEverywhere(set, open);
  }

  private List<Account> accountsOf(PersonId person) {
    return database
        .read(session -> accounts.of(session, List.of(person)))
        .getOrDefault(person, List.of())
        .stream()
        .filter(account -> account.level().exists())
        .toList();
  }

  private static Optional<String> weakness(String password, String again, StoredPerson person) {
    if (!password.equals(again)) {
      return Optional.of("The two entries differ.");
    }
    if (password.length() < SHORTEST) {
      return Optional.of("It must have at least %d characters.".formatted(SHORTEST));
    }
    if (person.login() != null && password.toLowerCase(Locale.ROOT).contains(person.login())) {
      return Optional.of("It must not hold the sign-in name.");
    }
    return Optional.empty();
  }
}
