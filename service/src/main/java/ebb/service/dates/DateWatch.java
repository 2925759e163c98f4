package ebb.service.dates;

import ebb.core.change.Cause;
import ebb.core.change.Input;
import ebb.core.person.PersonId;
import ebb.service.changes.Aftermath;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.departures.Departures;
import ebb.store.people.People;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Wakes people for whom an instant has come: a first day, a last day, the end of a grant. */
@Component
final class DateWatch implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(DateWatch.class);

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Proposals proposals;
  private final Releases releases;
  private final People people;
  private final Departures departures;
  private final List<Aftermath> aftermaths;
  private LocalDate day;

  DateWatch(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      Proposals proposals,
      Releases releases,
      People people,
      Departures departures,
      List<Aftermath> aftermaths) {
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.proposals = proposals;
    this.releases = releases;
    this.people = people;
    this.departures = departures;
    this.aftermaths = aftermaths;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("dates reached", people.countWakingBy(session, clock.instant()));
  }

  @Scheduled(fixedDelay = 500)
  @EventListener(BusinessClock.Moved.class)
  synchronized void look() {
    try {
      noteDay();
      var due = waking();
      if (!due.isEmpty()) {
        wake(due);
      }
    } catch (RuntimeException e) {
      LOG.error("Dates could not be looked at; this is tried again", e);
    }
  }

  /** With a new day, waiting times may be over. */
  private void noteDay() {
    var today = clock.today();
    if (!today.equals(day)) {
      database.writeAll(departures::lookSoon);
      day = today;
    }
  }

  private List<PersonId> waking() {
    return database.read(session -> people.wakingBy(session, clock.instant(), Evaluator.PART));
  }

  private void wake(List<PersonId> due) {
    endOverrides(due);
    proposals
        .differences(
            Cause.DATE,
            "dates reached on " + clock.today(),
            Releases.BY_ITSELF,
            List.of(due),
            _ -> true)
        .ifPresent(releases::releaseByItself);
    database.writeAll(
        session -> evaluator.evaluate(session, due).forEach(person -> goOn(session, person)));
  }

  /** What was to be said up to a day is taken away: an input like any other, of nobody's hand. */
  private void endOverrides(List<PersonId> due) {
    var inputs = database.read(session -> ended(session, due));
    if (!inputs.isEmpty()) {
      releases.releaseByItself(
          proposals.propose(
              Cause.DATE,
              "values set by hand up to a day before " + clock.today(),
              Releases.BY_ITSELF,
              null,
              inputs));
    }
  }

  private List<Input> ended(StatelessSession session, List<PersonId> due) {
    var people = this.people.getAll(session, due);
    var inputs = new ArrayList<Input>();
    this.people
        .assertions(session, due)
        .forEach(
            (id, all) ->
                all.forEach(
                    said -> {
                      var zone = people.get(id).person().zone(clock.zone());
                      var edits = new TreeMap<String, String>();
                      said.endedBefore(LocalDate.ofInstant(clock.instant(), zone))
                          .forEach(attribute -> edits.put(attribute, null));
                      if (!edits.isEmpty()) {
                        inputs.add(new Input.Assert(id, said.source(), null, null, edits));
                      }
                    }));
    return inputs;
  }

  private void goOn(StatelessSession session, Evaluated person) {
    aftermaths.forEach(after -> after.released(session, person, List.of(), clock.instant()));
    people.keepAhead(session, List.of(person.resolved()));
  }
}
