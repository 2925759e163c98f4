package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.application.Part;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.departure.Departure;
import ebb.core.departure.Departure.Kind;
import ebb.core.departure.Departure.State;
import ebb.core.departure.ReplyText;
import ebb.core.execution.Result;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.Stage;
import ebb.service.changes.Aftermath;
import ebb.service.connections.Connections;
import ebb.service.evaluation.Evaluated;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.departures.AutomaticReplies;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Begins departures and closings when changes are released, turns them back, and ends them. */
@Component
final class DepartureBook implements Aftermath {
  private static final Set<ChangeKind> SWITCH_OFF =
      EnumSet.of(ChangeKind.SUSPEND, ChangeKind.CLOSE);

  private final Database database;
  private final BusinessClock clock;
  private final Departures departures;
  private final Accounts accounts;
  private final ProcedureBook procedures;
  private final Recipients recipients;
  private final DepartureLetters letters;
  private final Journal journal;
  private final GateKeeper gates;
  private final Connections connections;
  private final AutomaticReplies replies;
  private final People people;
  private final RecipientAsks asks;
  private final Refusals refusals;

  DepartureBook(
      Database database,
      BusinessClock clock,
      Departures departures,
      Accounts accounts,
      ProcedureBook procedures,
      Recipients recipients,
      DepartureLetters letters,
      Journal journal,
      GateKeeper gates,
      Connections connections,
      AutomaticReplies replies,
      People people,
      RecipientAsks asks,
      Refusals refusals) {
    this.asks = asks;
    this.refusals = refusals;
    this.connections = connections;
    this.replies = replies;
    this.people = people;
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.accounts = accounts;
    this.procedures = procedures;
    this.recipients = recipients;
    this.letters = letters;
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
    var under = running.stream().filter(one -> one.kind() == Kind.DEPARTURE).findFirst();
    if (under.isPresent()) {
      follow(session, person, under.get(), at);
      return;
    }
    if (person.accounts().isEmpty()) {
      return;
    }
    // What was to be closed goes the way of all the others now.
    running.forEach(closing -> end(session, closing, State.TURNED_BACK, at));
    var lastDay =
        person.subject().person().date(Attributes.END_DATE).orElse(clock.today().minusDays(1));
    var procedure = procedures.of(session, person.subject().person());
    var counted = countedFrom(person.subject().person(), lastDay);
    var recipient =
        recipients.of(
            session, person.subject().person(), counted.plusDays(procedure.handOverDays()));
    var reason =
        person.subject().person().attributes().isEmpty()
            ? "no source names this person any more"
            : "last day " + lastDay;
    begin(
        session,
        Departure.begun(
            departures.number(session),
            person.subject().person().id(),
            Kind.DEPARTURE,
            lastDay,
            counted.plusDays(procedure.handOverDays()),
            procedure.asksReturn(),
            recipient.orElse(null),
            reason,
            at),
        person.accounts(),
        counted.plusDays(procedure.waitDays()),
        at);
    departures.running(session, person.subject().person().id()).stream()
        .filter(one -> one.kind() == Kind.DEPARTURE)
        .forEach(
            departure -> {
              wantReplies(session, departure, procedure.reply());
              askRecipient(session, departure, at);
            });
    letters.begun(session, person.subject().person(), at);
  }

  /**
   * Where an application can, it answers whoever writes; called again, it answers anew.
   *
   * @param text null for nothing
   */
  private void wantReplies(StatelessSession session, Departure departure, ReplyText text) {
    if (text == null
        || departure.kind() != Kind.DEPARTURE
        || clock.today().isAfter(departure.lastDay().plusDays(text.days()))) {
      return;
    }
    departures.accounts(session, departure.id()).stream()
        .filter(part -> connections.capabilities(part.application()).has(Part.REPLIES))
        .forEach(
            part -> replies.want(session, part.id(), departure.lastDay().plusDays(text.days())));
  }

  /** Somebody else gets what the accounts own: they are asked, and the replies name them. */
  void named(StatelessSession session, Departure departure, Instant at) {
    replyAnew(session, departure);
    askRecipient(session, departure, at);
  }

  /** Where accounts may own something. */
  private void askRecipient(StatelessSession session, Departure departure, Instant at) {
    if (departures.accounts(session, departure.id()).stream()
        .anyMatch(part -> connections.capabilities(part.application()).has(Part.OWNERSHIP))) {
      asks.ask(session, departure, at);
    }
  }

  /** The replies of a departure name somebody, or a day, that has changed. */
  private void replyAnew(StatelessSession session, Departure departure) {
    people
        .get(session, departure.person())
        .ifPresent(
            leaver ->
                wantReplies(session, departure, procedures.of(session, leaver.person()).reply()));
  }

  /**
   * From when waiting counts: what is learnt late is not gone sooner, as nobody has had the time to
   * miss it.
   */
  private LocalDate countedFrom(Person person, LocalDate lastDay) {
    var said = person.attributes().get(Attributes.END_DATE);
    if (said == null) {
      return lastDay;
    }
    var before = LocalDate.ofInstant(said.since(), person.zone(clock.zone())).minusDays(1);
    return before.isAfter(lastDay) ? before : lastDay;
  }

  /**
   * A later last day moves the steps that follow from it. An earlier one moves none: what was
   * waited for is not waited for less because somebody corrects the past.
   */
  private void follow(StatelessSession session, Evaluated person, Departure departure, Instant at) {
    var lastDay = person.subject().person().date(Attributes.END_DATE).orElse(departure.lastDay());
    if (lastDay.equals(departure.lastDay())) {
      return;
    }
    var days = Math.max(0, ChronoUnit.DAYS.between(departure.lastDay(), lastDay));
    var moved = departure.moved(lastDay, departure.handOverFrom().plusDays(days));
    departures.update(session, moved);
    replyAnew(session, moved);
    departures
        .accounts(session, departure.id())
        .forEach(
            part ->
                departures.updateAccount(
                    session, part.deletedFrom(part.deleteFrom().plusDays(days))));
    journal.write(
        session,
        at,
        Deed.of(
            "ebb",
            "departure %d: the last day is %s, all others are %d later"
                .formatted(departure.id(), lastDay, days),
            departure.person()));
  }

  private void close(StatelessSession session, Evaluated person, Change change, Instant at) {
    var account =
        person.accounts().stream()
            .filter(one -> one.application().equals(change.application()))
            .findFirst();
    if (account.isPresent() && departures.ofAccount(session, account.get().id()).isEmpty()) {
      var procedure = procedures.of(session, person.subject().person());
      begin(
          session,
          Departure.begun(
              departures.number(session),
              person.subject().person().id(),
              Kind.CLOSING,
              clock.today(),
              clock.today().plusDays(procedure.handOverDays()),
              false,
              null,
              "no rule gives an account in %s any more".formatted(change.application()),
              at),
          List.of(account.get()),
          clock.today().plusDays(procedure.waitDays()),
          at);
    }
  }

  void begin(
      StatelessSession session,
      Departure departure,
      List<Account> affected,
      LocalDate deleteFrom,
      Instant at) {
    departures.insert(session, departure);
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
                "began %s %d".formatted(departure.kind().word(), departure.id()),
                departure.person())
            .because(departure.reason()));
  }

  private void comeBack(
      StatelessSession session, Evaluated person, List<Departure> running, Instant at) {
    for (var departure : running) {
      if (departure.kind() == Kind.DEPARTURE || isWantedAgain(session, person, departure)) {
        end(session, departure, State.TURNED_BACK, at);
      }
    }
  }

  /** What is removed by order may still be somebody's by rule, as long as it is to be off. */
  private boolean isWantedAgain(StatelessSession session, Evaluated person, Departure departure) {
    return departures.accounts(session, departure.id()).stream()
        .map(part -> person.desired().accounts().get(part.application()))
        .filter(Objects::nonNull)
        .anyMatch(
            desired -> departure.kind() == Kind.CLOSING || desired.level() != Level.SUSPENDED);
  }

  private void end(StatelessSession session, Departure departure, State how, Instant at) {
    departures.update(session, departure.ended(how, at));
    if (how == State.TURNED_BACK) {
      departures
          .accounts(session, departure.id())
          .forEach(part -> replies.takeBack(session, part.id()));
    }
    journal.write(
        session,
        at,
        Deed.of(
            "ebb", "departure %d: %s".formatted(departure.id(), how.word()), departure.person()));
  }

  /** Says in the journal what came of a step, in a transaction of its own. */
  void note(Departure departure, String what) {
    database.writeAll(session -> note(session, departure, what));
  }

  private void note(StatelessSession session, Departure departure, String what) {
    journal.write(
        session,
        clock.instant(),
        Deed.of("ebb", "departure %d: %s".formatted(departure.id(), what), departure.person()));
  }

  /** From now on an account is only waited for, in case that it is wanted back. */
  void windowOpened(Departure departure, String application, LocalDate until) {
    database.writeAll(
        session -> {
          note(
              session,
              departure,
              "the account in %s can be restored until %s".formatted(application, until));
          letters.restoreEnds(session, departure, application, until, clock.instant());
        });
  }

  /** What an account owns is asked once it is off; a departure whose accounts are gone is done. */
  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    var done =
        results.stream()
            .map(Result::change)
            .filter(change -> change.account() != null && change.state().isDone())
            .toList();
    if (refusals.count(session, results)) {
      departures.lookSoon(session);
    }
    done.stream()
        .filter(change -> SWITCH_OFF.contains(change.kind()))
        .forEach(change -> departures.lookSoon(session, change.account()));
    done.stream()
        .filter(change -> change.kind().endsAccount())
        .flatMap(change -> ended(session, change).stream())
        .map(DepartureAccount::departure)
        .distinct()
        .forEach(departure -> endIfOver(session, departure, at));
  }

  /** What was stripped stays, and nothing is left to do for it. */
  private Optional<DepartureAccount> ended(StatelessSession session, Change change) {
    var part = departures.ofAccount(session, change.account());
    if (change.kind() == ChangeKind.STRIP) {
      part.ifPresent(one -> departures.updateAccount(session, one.staying()));
    }
    return part;
  }

  /** A departure of whose accounts nothing is left to be done is over. */
  void endIfOver(StatelessSession session, long id, Instant at) {
    var departure = departures.get(session, id).orElseThrow();
    if (departure.state() == State.RUNNING
        && departures.accounts(session, id).stream().allMatch(part -> isOver(session, part))) {
      end(session, departure, State.DONE, at);
      if (departure.kind() == Kind.DEPARTURE) {
        letters.done(session, departure, at);
      }
    }
  }

  private boolean isOver(StatelessSession session, DepartureAccount part) {
    return part.stays()
        || accounts
            .get(session, part.account())
            .filter(account -> account.level() != Level.GONE)
            .isEmpty();
  }

  /** The gates are looked at once more when an account is about to end. */
  @Override
  public Optional<String> against(StatelessSession session, Change ending) {
    var account = departures.ofAccount(session, ending.account());
    if (account.isEmpty()) {
      return Optional.of("no departure of this account is under way");
    }
    var why = gates.against(session, account.get(), ending.kind(), ending.attempts() > 0);
    if (why.isPresent()) {
      departures.updateAccount(
          session, account.get().askedEnd(false).lookAgain(Instant.now().plusSeconds(1)));
    }
    return why;
  }
}
