package ebb.service.changes;

import ebb.api.AttemptView;
import ebb.api.AttemptView.ExchangeView;
import ebb.api.ExecutionView;
import ebb.api.ExecutionView.WorkView;
import ebb.api.Listing;
import ebb.api.PauseRequest;
import ebb.core.application.Application;
import ebb.core.application.Application.Pause;
import ebb.core.execution.Standing;
import ebb.core.operator.Act;
import ebb.core.problem.Refusal;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Pauses;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.changes.Attempts;
import ebb.store.changes.Attempts.Attempt;
import ebb.store.changes.ChangeQueue;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How the work on applications goes, and the brake. */
@RestController
@RequestMapping("/api/v1")
class ExecutionController {
  private static final int ATTEMPTS_SHOWN = 50;

  private final Database database;
  private final Applications applications;
  private final ChangeQueue queue;
  private final Changes changes;
  private final Attempts attempts;
  private final Workers workers;
  private final Brake brake;
  private final Reaches reaches;
  private final Journal journal;
  private final BusinessClock clock;

  ExecutionController(
      Database database,
      Applications applications,
      ChangeQueue queue,
      Changes changes,
      Attempts attempts,
      Workers workers,
      Brake brake,
      Reaches reaches,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.applications = applications;
    this.queue = queue;
    this.changes = changes;
    this.attempts = attempts;
    this.workers = workers;
    this.brake = brake;
    this.reaches = reaches;
    this.journal = journal;
    this.clock = clock;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/execution")
  ExecutionView show() {
    var standings = workers.standings();
    return database.read(
        session ->
            new ExecutionView(
                Pauses.view(brake.stopped(session).orElse(null)),
                applications.list(session).stream()
                    .map(one -> work(session, one, Optional.ofNullable(standings.get(one.name()))))
                    .toList()));
  }

  private WorkView work(
      StatelessSession session, Application application, Optional<Standing> standing) {
    var counts = queue.counts(session, application.name());
    var now = Instant.now();
    return new WorkView(
        application.name(),
        Pauses.view(application.pause()),
        counts.waiting(),
        counts.underWay(),
        standing.map(Standing::restsUntil).filter(now::isBefore).orElse(null),
        standing.map(Standing::why).map(Problems::view).orElse(null),
        standing.map(Standing::atOnce).orElse(0),
        expected(counts.waiting() + counts.underWay(), standing));
  }

  private static Long expected(long changes, Optional<Standing> standing) {
    double each = standing.map(Standing::secondsEach).orElse(0.0);
    return changes == 0 || each == 0 ? null : Math.max(1, Math.round(changes * each));
  }

  /** Stops all work on all applications. What is under way is finished and recorded. */
  @Allowed(Act.STOP_WORK)
  @PostMapping("/execution/stop")
  ExecutionView stop(@RequestBody PauseRequest request, Principal principal) {
    var why = Requests.required(request.why(), "why");
    database.writeAll(
        session -> {
          brake.stop(session, new Pause(principal.getName(), why, clock.instant()));
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), "stopped all work").because(why));
        });
    workers.stopAll();
    return show();
  }

  /** Lets all work go on, but on applications that are paused for themselves. */
  @Allowed(Act.STOP_WORK)
  @PostMapping("/execution/go-on")
  ExecutionView goOn(Principal principal) {
    database.writeAll(
        session -> {
          brake.goOn(session);
          journal.write(
              session, clock.instant(), Deed.of(principal.getName(), "let all work go on"));
        });
    return show();
  }

  /** What went over the wire for a change, newest try first. */
  @Allowed(Act.SEE)
  @GetMapping("/changes/{id}/attempts")
  Listing<AttemptView> attempts(@PathVariable long id, Principal principal) {
    var change =
        database
            .read(session -> changes.get(session, id))
            .orElseThrow(() -> Refusal.notFound("change", id, "See: ebb changes show"));
    reaches.require(principal, change.person().value());
    return Listing.whole(
        database.read(session -> attempts.of(session, id, ATTEMPTS_SHOWN)).stream()
            .map(ExecutionController::view)
            .toList());
  }

  private static AttemptView view(Attempt attempt) {
    return new AttemptView(
        attempt.number(),
        attempt.outcome().toLowerCase(Locale.ROOT),
        attempt.exchanges().stream()
            .map(
                one ->
                    new ExchangeView(one.askedAt(), one.answeredAt(), one.request(), one.answer()))
            .toList());
  }
}
