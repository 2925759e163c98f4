package ebb.service.timeline;

import ebb.api.LaneView;
import ebb.api.MomentView;
import ebb.api.SpanView;
import ebb.api.TimelineView;
import ebb.core.application.Level;
import ebb.core.change.Change;
import ebb.core.departure.Departure;
import ebb.core.departure.Removal.Ending;
import ebb.core.forecast.Moment;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.Stage;
import ebb.service.connections.Endings;
import ebb.service.departures.ProcedureBook;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.changes.Changes;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.people.StoredPerson;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Draws one person over time. What happened comes from the changes that were seen; what will happen
 * from the same computation as every change, asked about later instants, and from the departure's
 * dates. A deletion ahead is drawn at the earliest day its gates allow.
 */
@Component
final class Timelines {
  private static final int CHANGES = 500;
  private static final Duration AROUND = Duration.ofDays(14);

  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Accounts accounts;
  private final Changes changes;
  private final Departures departures;
  private final ProcedureBook procedures;
  private final Applications applications;

  Timelines(
      BusinessClock clock,
      Evaluator evaluator,
      Accounts accounts,
      Changes changes,
      Departures departures,
      ProcedureBook procedures,
      Applications applications) {
    this.applications = applications;
    this.procedures = procedures;
    this.clock = clock;
    this.evaluator = evaluator;
    this.accounts = accounts;
    this.changes = changes;
    this.departures = departures;
  }

  TimelineView of(StatelessSession session, StoredPerson stored) {
    return new Drawing(session, stored.person()).view();
  }

  /** A level that begins; null for an account that is no more, or is not yet. */
  private record Turn(Instant at, Level level) {}

  private final class Drawing {
    private final StatelessSession session;
    private final Person person;
    private final ZoneId zone;
    private final Instant now = clock.instant();
    private final Map<String, List<Turn>> turns = new TreeMap<>();
    private final List<MomentView> moments = new ArrayList<>();

    Drawing(StatelessSession session, Person person) {
      this.session = session;
      this.person = person;
      this.zone = person.zone(clock.zone());
    }

    TimelineView view() {
      days();
      past();
      var ends = new TreeMap<String, LocalDate>();
      departure(ends);
      ahead(ends);
      moments.sort(Comparator.comparing(MomentView::at));
      var from = moments.stream().map(MomentView::at).filter(now::isAfter).findFirst().orElse(now);
      var until = moments.isEmpty() ? now : moments.getLast().at();
      var first = from.minus(AROUND);
      var last = (until.isAfter(now) ? until : now).plus(AROUND);
      return new TimelineView(
          first,
          now,
          last,
          zone.getId(),
          turns.entrySet().stream()
              .map(lane -> new LaneView(lane.getKey(), spans(lane.getValue(), last)))
              .toList(),
          moments);
    }

    private void days() {
      person.date(Attributes.START_DATE).ifPresent(day -> moments.add(day(day, "First day")));
      person
          .date(Attributes.END_DATE)
          .ifPresent(day -> moments.add(day(day.plusDays(1), "Last day is over (" + day + ")")));
      person.date(Attributes.AWAY_FROM).ifPresent(day -> moments.add(day(day, "Leave begins")));
      person
          .date(Attributes.AWAY_UNTIL)
          .ifPresent(day -> moments.add(day(day.plusDays(1), "Leave is over")));
    }

    private void past() {
      for (var account :
          accounts.of(session, List.of(person.id())).getOrDefault(person.id(), List.of())) {
        turns.computeIfAbsent(account.application(), _ -> new ArrayList<>());
      }
      for (var change : changes.done(session, person.id(), CHANGES)) {
        level(change).ifPresent(level -> turn(change.application(), change.seenAt(), level));
        moments.add(
            new MomentView(
                change.seenAt(),
                "change",
                words(change),
                change.application(),
                change.changeSet(),
                null,
                null));
      }
      // Accounts that were found, and not made by Ebb, have no change to begin with.
      for (var account :
          accounts.of(session, List.of(person.id())).getOrDefault(person.id(), List.of())) {
        if (turns.get(account.application()).isEmpty()) {
          turn(account.application(), account.seenAt(), account.level());
        }
      }
    }

    private void departure(Map<String, LocalDate> ends) {
      var running = departures.running(session, person.id()).stream().findFirst();
      if (running.isPresent()) {
        for (var part : departures.accounts(session, running.get().id())) {
          var account = accounts.get(session, part.account());
          if (account.filter(one -> one.level() != Level.GONE).isPresent()) {
            gates(running.get(), part, ends);
          }
        }
      } else {
        person
            .date(Attributes.END_DATE)
            .filter(day -> !clock.today().isAfter(day))
            .ifPresent(day -> planned(day, ends));
      }
    }

    /** A departure that has not begun goes by the procedure. */
    private void planned(LocalDate lastDay, Map<String, LocalDate> ends) {
      var procedure = procedures.of(session, person);
      for (var application : turns.keySet()) {
        var deletion = lastDay.plusDays(procedure.waitDays());
        handOver(lastDay.plusDays(procedure.handOverDays()), application, null);
        end(afterRestoring(deletion, application), application, null, ends);
      }
    }

    private void gates(Departure departure, DepartureAccount part, Map<String, LocalDate> ends) {
      if (part.provenAt() == null) {
        handOver(departure.handOverFrom(), part.application(), departure.id());
      }
      if (part.restorableUntil() != null) {
        end(part.restorableUntil().plusDays(1), part.application(), departure.id(), ends);
      } else if (!part.stays()) {
        var from = afterRestoring(part.deleteFrom(), part.application());
        end(from, part.application(), departure.id(), ends);
      }
    }

    private void handOver(LocalDate from, String application, Long departure) {
      moments.add(gate(from, "Handover from this day", application, departure));
    }

    private LocalDate afterRestoring(LocalDate from, String application) {
      return from.plusDays(
          Endings.restoreDays(applications.get(session, application).orElseThrow()));
    }

    /** What is only stripped, or kept, is there after that, too. */
    private void end(
        LocalDate from, String application, Long departure, Map<String, LocalDate> ends) {
      var ending = Endings.of(applications.get(session, application).orElseThrow());
      if (ending != Ending.KEEP) {
        var words = ending == Ending.DELETE ? "Deletion" : "Stripped of what is personal";
        moments.add(
            gate(from, words + " from this day, once all gates are open", application, departure));
      }
      if (ending == Ending.DELETE) {
        ends.put(application, from);
      }
    }

    private void ahead(Map<String, LocalDate> ends) {
      var course = evaluator.courses(session, List.of(person.id()), Instant.MAX).getFirst();
      for (var later : course.moments()) {
        if (later.at().isAfter(now)) {
          later
              .desired()
              .accounts()
              .forEach((application, account) -> turnAhead(application, later, account.level()));
          List.copyOf(turns.keySet()).stream()
              .filter(later.desired()::isWithout)
              .forEach(application -> turnAhead(application, later, Level.SUSPENDED));
        }
      }
      ends.forEach(
          (application, day) -> {
            var at = start(day);
            turn(application, at.isAfter(now) ? at : now.plus(Duration.ofDays(1)), Level.GONE);
          });
    }

    /** Somebody who has departed is given no account; one that stands there is suspended. */
    private void turnAhead(String application, Moment later, Level level) {
      var before = latest(application);
      if (before.isEmpty() && (later.stage() == Stage.DEPARTED || level == Level.SUSPENDED)) {
        return;
      }
      if (before.filter(turn -> turn.level() == level || turn.level() == Level.GONE).isEmpty()) {
        turn(application, later.at(), level);
        moments.add(
            new MomentView(
                later.at(), "change", willBe(application, level), application, null, null, null));
      }
    }

    private Optional<Turn> latest(String application) {
      var all = turns.getOrDefault(application, List.of());
      return all.isEmpty() ? Optional.empty() : Optional.of(all.getLast());
    }

    private void turn(String application, Instant at, Level level) {
      turns.computeIfAbsent(application, _ -> new ArrayList<>()).add(new Turn(at, level));
    }

    private MomentView day(LocalDate day, String words) {
      return new MomentView(start(day), "day", words, null, null, null, null);
    }

    private MomentView gate(LocalDate day, String words, String application, Long departure) {
      var at = start(day);
      return new MomentView(at, "gate", words, application, null, departure, !at.isAfter(now));
    }

    private Instant start(LocalDate day) {
      return day.atStartOfDay(zone).toInstant();
    }
  }

  private static List<SpanView> spans(List<Turn> turns, Instant until) {
    var spans = new ArrayList<SpanView>();
    for (int i = 0; i < turns.size(); i++) {
      var to = i + 1 < turns.size() ? turns.get(i + 1).at() : until;
      spans.add(new SpanView(turns.get(i).at(), to, turns.get(i).level().word()));
    }
    return spans;
  }

  private static Optional<Level> level(Change change) {
    return switch (change.kind()) {
      case CREATE -> Optional.of(change.usable() ? Level.ACTIVE : Level.PREPARED);
      case OPEN, RETURN -> Optional.of(Level.ACTIVE);
      case SUSPEND, CLOSE -> Optional.of(Level.SUSPENDED);
      case DELETE -> Optional.of(Level.GONE);
      case UPDATE, JOIN, LEAVE, TAKE_SEAT, FREE_SEAT, STRIP, RESET, SHUT, CATCH_UP ->
          Optional.empty();
    };
  }

  private static String words(Change change) {
    var what =
        switch (change.kind()) {
          case CREATE -> "Account created";
          case UPDATE -> "Updated: " + String.join(", ", change.edits().keySet());
          case OPEN -> "Access opened";
          case SUSPEND -> "Suspended";
          case RETURN -> "Returned";
          case JOIN -> "Joined " + change.group();
          case LEAVE -> "Left " + change.group();
          case TAKE_SEAT -> "Took seat " + change.group();
          case FREE_SEAT -> "Freed seat " + change.group();
          case CLOSE -> "Entitlement lost: suspended, closing began";
          case DELETE -> "Deleted";
          case STRIP -> "Stripped of what is personal";
          case RESET -> "Password reset";
          case SHUT -> "Sessions ended, other ways in shut";
          case CATCH_UP -> "Earlier items of " + change.group() + " followed";
        };
    return change.application() + ": " + what;
  }

  private static String willBe(String application, Level level) {
    return switch (level) {
      case PREPARED -> application + ": account will be prepared";
      case ACTIVE -> application + ": access will open";
      case SUSPENDED -> application + ": will be suspended";
      case DELETED, GONE -> application + ": will be gone";
    };
  }
}
