package ebb.service.emergency;

import ebb.core.application.Part;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.person.EmergencyStop;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.core.rule.DesiredAccount;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.EmergencyStops;
import ebb.store.people.People;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Shuts a person out of everything at once, and lets them in again. */
@Component
final class EmergencyDesk {
  private final Database database;
  private final BusinessClock clock;
  private final EmergencyStops stops;
  private final People people;
  private final Accounts accounts;
  private final Connections connections;
  private final Releases releases;
  private final Proposals proposals;
  private final Journal journal;

  EmergencyDesk(
      Database database,
      BusinessClock clock,
      EmergencyStops stops,
      People people,
      Accounts accounts,
      Connections connections,
      Releases releases,
      Proposals proposals,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.stops = stops;
    this.people = people;
    this.accounts = accounts;
    this.connections = connections;
    this.releases = releases;
    this.proposals = proposals;
    this.journal = journal;
  }

  /** In force when this returns. Where one is in force already, all is ordered once more. */
  EmergencyStop stop(PersonId person, String reason, String by) {
    return database.write(
        session -> {
          var name = name(session, person);
          var before = stops.of(session, person);
          var set =
              releases.atOnce(session, "emergency stop of " + name, by, steps(session, person));
          var stop =
              before
                  .map(
                      one ->
                          new EmergencyStop(person, one.since(), one.by(), one.reason(), set.id()))
                  .orElseGet(
                      () -> new EmergencyStop(person, clock.instant(), by, reason, set.id()));
          stops.put(session, stop);
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "emergency stop (change set %d)".formatted(set.id()), person)
                  .because(reason));
          return stop;
        });
  }

  /** Accounts that seem to be off are told, too: what Ebb saw last may not be what is. */
  private List<Draft> steps(StatelessSession session, PersonId person) {
    var steps = new ArrayList<Draft>();
    for (var account : existing(session, person)) {
      if (account.observed().usable()) {
        steps.add(step(account, ChangeKind.SUSPEND));
      }
      if (saysWaysIn(account)) {
        steps.add(step(account, ChangeKind.SHUT));
      }
    }
    return steps;
  }

  List<Account> existing(StatelessSession session, PersonId person) {
    return accounts.of(session, List.of(person)).getOrDefault(person, List.of()).stream()
        .filter(account -> account.level().exists())
        .toList();
  }

  boolean saysWaysIn(Account account) {
    var capabilities = connections.capabilities(account.application());
    return capabilities.has(Part.SESSIONS) || capabilities.has(Part.WAYS_IN);
  }

  private static Draft step(Account account, ChangeKind kind) {
    return new Draft(
        account.person(),
        account.application(),
        account.id(),
        Step.of(kind, DesiredAccount.EMERGENCY_STOP));
  }

  /** Shows what comes back; empty if nothing does. */
  Optional<ChangeSet> lift(PersonId person, String reason, String by) {
    var name =
        database.write(
            session -> {
              if (!stops.lift(session, person)) {
                throw Refusal.notFound(
                    "emergency stop of person", person, "See: ebb emergency list");
              }
              journal.write(
                  session,
                  clock.instant(),
                  Deed.of(by, "lifted the emergency stop", person).because(reason));
              return name(session, person);
            });
    return proposals.differences(
        Cause.HAND,
        "return of %s after an emergency stop".formatted(name),
        by,
        List.of(List.of(person)),
        _ -> true);
  }

  private String name(StatelessSession session, PersonId person) {
    return people
        .get(session, person)
        .map(one -> one.displayName())
        .orElseThrow(
            () -> Refusal.notFound("person", person, "Find them: ebb people list --name NAME"));
  }
}
