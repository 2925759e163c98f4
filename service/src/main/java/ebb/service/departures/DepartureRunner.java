package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.application.Unreachable;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.applications.WaysFound.Look;
import ebb.store.changes.Changes;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Takes each account of a departure one step further: stock, references, handover, proof, deletion.
 * Each step is claimed, done with no transaction open, and recorded, so that a crash costs one
 * step.
 */
@Component
final class DepartureRunner implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(DepartureRunner.class);
  private static final Duration LEASE = Duration.ofMinutes(2);
  private static final Duration BETWEEN_POLLS = Duration.ofSeconds(1);

  /** A gate that shuts or opens elsewhere is noticed within a minute; days are noticed at once. */
  private static final Duration BETWEEN_LOOKS = Duration.ofMinutes(1);

  private static final int AT_ONCE = 20;
  private static final int LATEST = 100;

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final Departures departures;
  private final Accounts accounts;
  private final GateKeeper gates;
  private final Sharing sharing;
  private final Proposals proposals;
  private final Releases releases;
  private final WaysFound found;
  private final Changes changes;
  private final DepartureBook book;
  private final Handovers handovers;

  DepartureRunner(
      Database database,
      BusinessClock clock,
      Connections connections,
      Departures departures,
      Accounts accounts,
      GateKeeper gates,
      Sharing sharing,
      Proposals proposals,
      Releases releases,
      WaysFound found,
      Changes changes,
      DepartureBook book,
      Handovers handovers) {
    this.handovers = handovers;
    this.found = found;
    this.changes = changes;
    this.book = book;
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.departures = departures;
    this.accounts = accounts;
    this.gates = gates;
    this.sharing = sharing;
    this.proposals = proposals;
    this.releases = releases;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("departures", departures.countToLookAt(session, Instant.now()));
  }

  @Scheduled(fixedDelay = 300)
  synchronized void look() {
    try {
      var now = Instant.now();
      if (database.read(session -> departures.countToLookAt(session, now)) > 0) {
        database
            .write(session -> departures.claim(session, now, now.plus(LEASE), AT_ONCE))
            .forEach(this::further);
      }
    } catch (RuntimeException e) {
      LOG.error("Departures could not be looked at; this is tried again", e);
    }
  }

  private void further(DepartureAccount part) {
    try {
      next(view(part)).ifPresent(this::record);
    } catch (Unreachable e) {
      record(part.troubled(e.problem()).lookAgain(Instant.now().plus(BETWEEN_LOOKS)));
    }
  }

  private PartView view(DepartureAccount part) {
    return database.read(
        session -> {
          var departure = departures.get(session, part.departure()).orElseThrow();
          return new PartView(
              part,
              departure,
              accounts.get(session, part.account()).orElseThrow(),
              sharing.of(session, departure, part.application()),
              gates.caseOf(session, departure, part).removal().restoreDays());
        });
  }

  /** Empty while somebody else goes on with it. */
  private Optional<DepartureAccount> next(PartView view) throws Unreachable {
    if (view.account().level() != Level.SUSPENDED) {
      return Optional.of(view.part().lookAgain(Instant.now().plus(BETWEEN_POLLS)));
    }
    shutWaysIn(view);
    var asked = withReferences(view);
    var found = database.read(session -> gates.found(session, asked));
    var part = asked.shut(found.shut(), clock.today());
    return switch (found.next()) {
      case WAIT_UNTIL_OFF -> Optional.of(part.lookAgain(Instant.now().plus(BETWEEN_POLLS)));
      case WAIT -> Optional.of(part.lookAgain(Instant.now().plus(BETWEEN_LOOKS)));
      case TAKE_STOCK -> Optional.of(handovers.takenStock(view, part).lookAgain(Instant.now()));
      case HAND_OVER -> Optional.of(handovers.started(view, part));
      case FOLLOW_HANDOVER -> handovers.followed(view, part);
      case OPEN_WINDOW -> Optional.of(windowOpened(view, part));
      case STAY -> Optional.of(staying(view, part));
      case REMOVE -> Optional.of(removed(view, part, found.ending().kind().orElseThrow()));
    };
  }

  /** What came in after the proof is handed over, too: it would be lost with the account. */
  private DepartureAccount removed(PartView view, DepartureAccount part, ChangeKind end)
      throws Unreachable {
    var since = handovers.cameInSince(view, part);
    if (since > 0) {
      book.note(
          view.departure(),
          "%d items came in since stock was taken in %s; it is taken anew"
              .formatted(since, part.application()));
      return part.retried();
    }
    return endAsked(view, part, end);
  }

  /** Once; what is open after that stands in Now, and is somebody's to shut or to waive. */
  private void shutWaysIn(PartView view) {
    var open =
        database.read(
            session -> {
              var look = found.of(session, List.of(view.account().id())).get(view.account().id());
              var ordered =
                  changes.ofPerson(session, view.departure().person(), LATEST).stream()
                      .anyMatch(
                          change ->
                              change.kind() == ChangeKind.SHUT
                                  && change.ground().equals(ground(view))
                                  && change.application().equals(view.part().application()));
              return ordered ? Optional.<Look>empty() : Optional.ofNullable(look);
            });
    if (open.filter(look -> look.sessions() > 0 || !look.toBeShut().isEmpty()).isPresent()
        && view.departure().paused() == null) {
      releases.releaseByItself(
          proposals.steps(
              Cause.DEPARTURE,
              "ways in shut by departure " + view.departure().id(),
              Releases.BY_ITSELF,
              shutting(view, open.get()).stream().map(step -> draft(view, step)).toList()));
    }
  }

  /** All at once, unless some of it is to stay open. */
  private static List<Step> shutting(PartView view, Look look) {
    return look.ways().stream().anyMatch(WaysFound.Found::isWaived)
        ? look.toBeShut().stream()
            .map(way -> Step.group(ChangeKind.SHUT, way.way(), ground(view)))
            .toList()
        : List.of(Step.of(ChangeKind.SHUT, ground(view)));
  }

  private static String ground(PartView view) {
    return "departure " + view.departure().id();
  }

  private static Draft draft(PartView view, Step step) {
    return new Draft(
        view.departure().person(), view.part().application(), view.part().account(), step);
  }

  private DepartureAccount withReferences(PartView view) throws Unreachable {
    var references = connections.to(view.part().application()).references();
    return references.isEmpty()
        ? view.part()
        : view.part().references(references.get().to(view.account().observed().id()));
  }

  private DepartureAccount windowOpened(PartView view, DepartureAccount part) {
    var until = clock.today().plusDays(view.restoreDays());
    book.windowOpened(view.departure(), part.application(), until);
    return part.restorableUntil(until).lookAgain(Instant.now().plus(BETWEEN_LOOKS));
  }

  private DepartureAccount staying(PartView view, DepartureAccount part) {
    book.note(
        view.departure(),
        "the account in %s stays suspended, as is said of it".formatted(part.application()));
    return part.staying();
  }

  /** Kept first: when the change is claimed the gates are looked at again, by what is kept. */
  private DepartureAccount endAsked(PartView view, DepartureAccount found, ChangeKind end) {
    var kept =
        database.write(
            session -> departures.keepClaimed(session, found.lookAgain(Instant.now().plus(LEASE))));
    if (kept.isEmpty()) {
      return found;
    }
    var set =
        proposals.steps(
            Cause.DEPARTURE,
            "removal by departure " + view.departure().id(),
            Releases.BY_ITSELF,
            List.of(draft(view, Step.of(end, ground(view)))));
    releases.releaseByItself(set);
    return kept.get().askedEnd(true);
  }

  /** What an operator wrote meanwhile stands; the part is then looked at again. */
  private void record(DepartureAccount part) {
    database.writeAll(
        session -> {
          if (departures.updateAccount(session, part) && part.stays()) {
            book.endIfOver(session, part.departure(), clock.instant());
          }
        });
  }
}
