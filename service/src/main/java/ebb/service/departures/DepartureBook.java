package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.departure.Departure;
import ebb.core.departure.Departure.State;
import ebb.core.departure.Procedure;
import ebb.core.execution.Result;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.service.changes.Aftermath;
import ebb.service.evaluation.Evaluated;
import ebb.service.time.BusinessClock;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.time.Instant;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Begins departures and closings when changes are released, turns them back, and ends them. */
@Component
final class DepartureBook implements Aftermath {
  private static final Set<ChangeKind> SWITCH_OFF =
      EnumSet.of(ChangeKind.SUSPEND, ChangeKind.CLOSE);

  private final BusinessClock clock;
  private final Departures departures;
  private final Accounts accounts;
  private final People people;
  private final Journal journal;
  private final GateKeeper gates;

  DepartureBook(
      BusinessClock clock,
      Departures departures,
      Accounts accounts,
      People people,
      Journal journal,
      GateKeeper gates) {
    this.clock = clock;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.journal = journal;
    this.gates = gates;
  }

  @Override
  public void released(
      StatelessSession session, Evaluated person, List<Change> changes, Instant at) {
    var running = departures.running(session, person.subject().person().id());
    if (person.stage() == Stage.DEPARTED) {
      depart(session, person, running, at);
    } else {
      comeBack(session, person, running, at);
      changes.stream()
          .filter(change -> change.kind() == ChangeKind.CLOSE)
          .forEach(change -> close(session, person, change, at));
    }
  }

  private void depart(
      StatelessSession session, Evaluated person, List<Departure> running, Instant at) {
    if (person.accounts().isEmpty() || running.stream().anyMatch(one -> !one.closing())) {
      return;
    }
    // What was to be closed goes the way of all the others now.
    running.forEach(closing -> end(session, closing, State.TURNED_BACK, at));
    var lastDay =
        person.subject().person().date(Attributes.END_DATE).orElse(clock.today().minusDays(1));
    var reason =
        person.subject().person().attributes().isEmpty()
            ? "no source names this person any more"
            : "last day " + lastDay;
    begin(
        session, person, person.accounts(), false, lastDay, recipient(session, person), reason, at);
  }

  /** The manager, unless they have gone themselves. */
  private PersonId recipient(StatelessSession session, Evaluated person) {
    return person
        .subject()
        .person()
        .manager()
        .flatMap(id -> people.get(session, id))
        .filter(manager -> manager.person().stage(clock.instant(), clock.zone()) != Stage.DEPARTED)
        .map(manager -> manager.person().id())
        .orElse(null);
  }

  private void close(StatelessSession session, Evaluated person, Change change, Instant at) {
    var account =
        person.accounts().stream()
            .filter(one -> one.application().equals(change.application()))
            .findFirst();
    if (account.isPresent() && departures.ofAccount(session, account.get().id()).isEmpty()) {
      begin(
          session,
          person,
          List.of(account.get()),
          true,
          clock.today(),
          null,
          "no rule gives an account in %s any more".formatted(change.application()),
          at);
    }
  }

  private void begin(
      StatelessSession session,
      Evaluated person,
      List<Account> affected,
      boolean closing,
      LocalDate lastDay,
      PersonId recipient,
      String reason,
      Instant at) {
    var id = person.subject().person().id();
    var departure =
        new Departure(
            departures.number(session),
            id,
            closing,
            State.RUNNING,
            lastDay,
            recipient,
            reason,
            at,
            null,
            1);
    departures.insert(session, departure);
    var deleteFrom = lastDay.plusDays(Procedure.STANDARD.waitDays());
    affected.forEach(
        account ->
            departures.insertAccount(
                session,
                DepartureAccount.begun(
                    departures.accountNumber(session),
                    departure.id(),
                    account.id(),
                    account.application(),
                    deleteFrom)));
    journal.write(
        session,
        at,
        Deed.of(
                "ebb",
                "began %s %d".formatted(closing ? "closing" : "departure", departure.id()),
                id)
            .because(reason));
  }

  private void comeBack(
      StatelessSession session, Evaluated person, List<Departure> running, Instant at) {
    for (var departure : running) {
      if (!departure.closing() || isEntitledAgain(session, person, departure)) {
        end(session, departure, State.TURNED_BACK, at);
      }
    }
  }

  private boolean isEntitledAgain(StatelessSession session, Evaluated person, Departure closing) {
    return departures.accounts(session, closing.id()).stream()
        .anyMatch(account -> person.desired().accounts().containsKey(account.application()));
  }

  private void end(StatelessSession session, Departure departure, State how, Instant at) {
    departures.update(session, departure.ended(how, at));
    journal.write(
        session,
        at,
        Deed.of(
            "ebb", "departure %d: %s".formatted(departure.id(), how.word()), departure.person()));
  }

  /** What an account owns is asked once it is off; a departure whose accounts are gone is done. */
  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    var done =
        results.stream()
            .map(Result::change)
            .filter(change -> change.account() != null && change.state().isDone())
            .toList();
    done.stream()
        .filter(change -> SWITCH_OFF.contains(change.kind()))
        .forEach(change -> departures.lookSoon(session, change.account()));
    done.stream()
        .filter(change -> change.kind() == ChangeKind.DELETE)
        .map(Change::account)
        .flatMap(account -> departures.ofAccount(session, account).stream())
        .map(DepartureAccount::departure)
        .distinct()
        .filter(departure -> isAllGone(session, departure))
        .flatMap(departure -> departures.get(session, departure).stream())
        .forEach(departure -> end(session, departure, State.DONE, at));
  }

  private boolean isAllGone(StatelessSession session, long departure) {
    return departures.accounts(session, departure).stream()
        .flatMap(one -> accounts.get(session, one.account()).stream())
        .allMatch(account -> account.level() == Level.GONE);
  }

  /** The gates are looked at once more when a deletion is about to be carried out. */
  @Override
  public Optional<String> against(StatelessSession session, Change deletion) {
    var account = departures.ofAccount(session, deletion.account());
    if (account.isEmpty()) {
      return Optional.of("no departure of this account is under way");
    }
    var shut = gates.firstShut(session, account.get());
    if (shut.isPresent()) {
      departures.updateAccount(
          session, account.get().askedDeletion(false).lookAgain(Instant.now().plusSeconds(1)));
    }
    return shut.map(gate -> gate.why());
  }
}
