package ebb.service.departures;

import ebb.core.application.Application;
import ebb.core.departure.Departure;
import ebb.core.person.PersonId;
import ebb.service.connections.SettingsCheck;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.people.Logins;
import ebb.store.people.People;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Finds who gets what: whoever is named in a departure, but for kinds that have one of their own.
 */
@Component
final class Sharing {
  private final Applications applications;
  private final Accounts accounts;
  private final Logins logins;
  private final People people;

  Sharing(Applications applications, Accounts accounts, Logins logins, People people) {
    this.applications = applications;
    this.accounts = accounts;
    this.logins = logins;
    this.people = people;
  }

  Shares of(StatelessSession session, Departure departure, String application) {
    return of(session, departure, applications.get(session, application).orElseThrow());
  }

  Shares of(StatelessSession session, Departure departure, Application at) {
    var application = at.name();
    var byKind = new TreeMap<String, Recipient>();
    named(at)
        .forEach(
            (kind, login) ->
                byKind.put(
                    kind,
                    logins
                        .owner(session, login)
                        .flatMap(person -> recipient(session, person, application))
                        .orElse(new Recipient(null, login, false))));
    return new Shares(
        Optional.ofNullable(departure.recipient())
            .flatMap(person -> recipient(session, person, application)),
        byKind);
  }

  /** Logins by kind. */
  private static Map<String, String> named(Application application) {
    var named = new TreeMap<String, String>();
    application
        .settings()
        .forEach(
            (name, login) -> {
              if (name.startsWith(SettingsCheck.RECIPIENT)) {
                named.put(name.substring(SettingsCheck.RECIPIENT.length()), login);
              }
            });
    return named;
  }

  private Optional<Recipient> recipient(
      StatelessSession session, PersonId person, String application) {
    return people
        .get(session, person)
        .map(
            stored ->
                new Recipient(
                    accounts.existing(session, person, application).orElse(null),
                    stored.displayName(),
                    stored.person().isTechnical()));
  }
}
