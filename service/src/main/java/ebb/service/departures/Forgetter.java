package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.departure.Departure;
import ebb.core.departure.Forgetting;
import ebb.core.departure.Procedure;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.PersonalData;
import ebb.store.applications.Accounts;
import ebb.store.changes.Changes;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Holds;
import ebb.store.people.LoginSchemes;
import ebb.store.people.People;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Forgets what is known of people who left, as long after their departure as the procedure of their
 * kind says today. Nobody is forgotten who is here again, whose account still exists, or of whom
 * something is held.
 */
@Component
final class Forgetter {
  private static final Logger LOG = LoggerFactory.getLogger(Forgetter.class);
  private static final int PAGE = 200;

  private final Database database;
  private final BusinessClock clock;
  private final ProcedureBook procedures;
  private final Departures departures;
  private final People people;
  private final Accounts accounts;
  private final Holds holds;
  private final Changes changes;
  private final PersonalData data;
  private final LoginSchemes schemes;
  private final Journal journal;

  Forgetter(
      Database database,
      BusinessClock clock,
      ProcedureBook procedures,
      Departures departures,
      People people,
      Accounts accounts,
      Holds holds,
      Changes changes,
      PersonalData data,
      LoginSchemes schemes,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.procedures = procedures;
    this.departures = departures;
    this.people = people;
    this.accounts = accounts;
    this.holds = holds;
    this.changes = changes;
    this.data = data;
    this.schemes = schemes;
    this.journal = journal;
  }

  @Scheduled(fixedDelay = 600_000, initialDelay = 60_000)
  @EventListener(BusinessClock.Moved.class)
  synchronized void look() {
    least().ifPresent(this::lookAtThoseGoneFor);
  }

  /** After how many days the first may be forgotten; empty if nobody ever is. */
  private Optional<Integer> least() {
    return database.read(procedures::all).values().stream()
        .map(Procedure::forgetDays)
        .filter(days -> days != null)
        .min(Integer::compare);
  }

  private void lookAtThoseGoneFor(int days) {
    var before = clock.today().minusDays(days - 1L).atStartOfDay(clock.zone()).toInstant();
    var last = 0L;
    List<Departure> some;
    do {
      var after = last;
      some = database.read(session -> departures.ended(session, before, after, PAGE));
      some.forEach(this::forgetIfDue);
      last = some.isEmpty() ? last : some.getLast().id();
    } while (some.size() == PAGE);
  }

  /** One who cannot be forgotten keeps nobody else from it. */
  private void forgetIfDue(Departure departure) {
    try {
      if (database.read(session -> isDue(session, departure))) {
        database.writeAll(
            session -> {
              if (isDue(session, departure)) {
                forget(session, departure.person());
              }
            });
      }
    } catch (RuntimeException e) {
      LOG.error("Person {} could not be forgotten; this is tried again", departure.person(), e);
    }
  }

  private boolean isDue(StatelessSession session, Departure departure) {
    return of(session, departure).filter(one -> one.isDue(clock.today())).isPresent();
  }

  private void forget(StatelessSession session, PersonId person) {
    var rest = clock.today().plusDays(schemes.inForce(session).restDays());
    data.forget(session, person, rest, clock.instant());
    journal.forget(session, person);
    journal.write(
        session, clock.instant(), Deed.of("ebb", "forgot what was known of them", person));
  }

  /** Empty if they are kept for ever, or it is no departure of a person, or was turned back. */
  Optional<Forgetting> of(StatelessSession session, Departure departure) {
    if (departure.kind() != Departure.Kind.DEPARTURE
        || departure.state() == Departure.State.TURNED_BACK) {
      return Optional.empty();
    }
    var forgotten =
        data.forgottenAt(session, departure.person())
            .filter(at -> departure.endedAt() != null && !at.isBefore(departure.endedAt()));
    var days =
        people
            .get(session, departure.person())
            .map(stored -> procedures.forgetDays(session, stored.person()));
    if (forgotten.isEmpty() && days.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new Forgetting(
            days.orElse(0),
            day(departure.endedAt()),
            forgotten.map(this::day).orElse(null),
            departure.endedAt() == null ? null : against(session, departure.person())));
  }

  private LocalDate day(Instant at) {
    return at == null ? null : LocalDate.ofInstant(at, clock.zone());
  }

  /** Null for nothing. */
  private String against(StatelessSession session, PersonId person) {
    var stage =
        people
            .get(session, person)
            .map(stored -> stored.person().stage(clock.instant(), clock.zone()));
    if (stage.filter(one -> one != Stage.DEPARTED).isPresent()) {
      return "They are here again.";
    }
    if (!departures.running(session, person).isEmpty()) {
      return "Another departure is under way.";
    }
    var hold = holds.inForce(session, person, clock.today());
    if (hold.isPresent()) {
      return "A hold is in force: %s.".formatted(hold.get().reason());
    }
    var staying =
        accounts.of(session, List.of(person)).getOrDefault(person, List.of()).stream()
            .filter(account -> account.level() != Level.GONE && account.strippedAt() == null)
            .findFirst();
    if (staying.isPresent()) {
      return "Their account in %s still exists.".formatted(staying.get().application());
    }
    return changes.underWay(session, List.of(person)).isEmpty()
        ? null
        : "Changes for them are under way.";
  }
}
