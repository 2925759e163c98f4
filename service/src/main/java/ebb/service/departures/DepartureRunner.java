package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.application.Ownership;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.departure.Departure;
import ebb.core.handover.Proof;
import ebb.core.handover.Sheet;
import ebb.core.problem.Problem;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.applications.WaysFound.Look;
import ebb.store.changes.Changes;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
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
final class DepartureRunner {
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
  private final People people;
  private final GateKeeper gates;
  private final Proposals proposals;
  private final Releases releases;
  private final Journal journal;
  private final WaysFound found;
  private final Changes changes;
  private final DepartureBook book;

  DepartureRunner(
      Database database,
      BusinessClock clock,
      Connections connections,
      Departures departures,
      Accounts accounts,
      People people,
      GateKeeper gates,
      Proposals proposals,
      Releases releases,
      Journal journal,
      WaysFound found,
      Changes changes,
      DepartureBook book) {
    this.found = found;
    this.changes = changes;
    this.book = book;
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.gates = gates;
    this.proposals = proposals;
    this.releases = releases;
    this.journal = journal;
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

  /** What is known of a part when it is looked at. */
  private record View(
      DepartureAccount part,
      Departure departure,
      Account account,
      Optional<Account> recipient,
      int restoreDays) {}

  private void further(DepartureAccount part) {
    try {
      record(next(view(part)));
    } catch (Unreachable e) {
      record(part.troubled(e.problem()).lookAgain(Instant.now().plus(BETWEEN_LOOKS)));
    }
  }

  private View view(DepartureAccount part) {
    return database.read(
        session -> {
          var departure = departures.get(session, part.departure()).orElseThrow();
          return new View(
              part,
              departure,
              accounts.get(session, part.account()).orElseThrow(),
              gates.recipientAccount(session, departure, part),
              gates.caseOf(session, departure, part).removal().restoreDays());
        });
  }

  private DepartureAccount next(View view) throws Unreachable {
    if (view.account().level() != Level.SUSPENDED) {
      return view.part().lookAgain(Instant.now().plus(BETWEEN_POLLS));
    }
    shutWaysIn(view);
    var part = withReferences(view);
    return switch (database.read(session -> gates.next(session, part))) {
      case WAIT_UNTIL_OFF -> part.lookAgain(Instant.now().plus(BETWEEN_POLLS));
      case WAIT -> part.lookAgain(Instant.now().plus(BETWEEN_LOOKS));
      case TAKE_STOCK -> takenStock(view, ownership(part), part).lookAgain(Instant.now());
      case HAND_OVER -> started(view, ownership(part), part);
      case FOLLOW_HANDOVER -> followed(view, ownership(part), part);
      case OPEN_WINDOW -> windowOpened(view, part);
      case STAY -> staying(view, part);
      case DELETE -> deletionAsked(view, part.lookAgain(Instant.now().plus(BETWEEN_LOOKS)));
    };
  }

  private Ownership ownership(DepartureAccount part) {
    return connections.to(part.application()).ownership().orElseThrow();
  }

  /** Once; what is open after that stands in Now, and is somebody's to shut or to waive. */
  private void shutWaysIn(View view) {
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
    if (open.filter(Look::isOpen).isPresent() && view.departure().paused() == null) {
      releases.releaseByItself(
          proposals.steps(
              Cause.DEPARTURE,
              "ways in shut by departure " + view.departure().id(),
              Releases.BY_ITSELF,
              shutting(view, open.get()).stream().map(step -> draft(view, step)).toList()));
    }
  }

  /** All at once, unless some of it is to stay open. */
  private static List<Step> shutting(View view, Look look) {
    return look.ways().stream().anyMatch(WaysFound.Found::isWaived)
        ? look.ways().stream()
            .filter(way -> !way.isWaived())
            .map(way -> Step.group(ChangeKind.SHUT, way.way(), ground(view)))
            .toList()
        : List.of(Step.of(ChangeKind.SHUT, ground(view)));
  }

  private static String ground(View view) {
    return "departure " + view.departure().id();
  }

  private static Draft draft(View view, Step step) {
    return new Draft(
        view.departure().person(), view.part().application(), view.part().account(), step);
  }

  private DepartureAccount withReferences(View view) throws Unreachable {
    var references = connections.to(view.part().application()).references();
    return references.isEmpty()
        ? view.part()
        : view.part().references(references.get().to(view.account().observed().id()));
  }

  private DepartureAccount takenStock(View view, Ownership ownership, DepartureAccount part)
      throws Unreachable {
    var owned = new ArrayList<Item>();
    ownership.items(view.account().observed().id(), owned::add);
    return database.write(
        session -> {
          departures.keepItems(session, part.id(), owned);
          var all = departures.items(session, part.id());
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  "ebb",
                  "departure %d: took stock in %s, %d items"
                      .formatted(part.departure(), part.application(), all.size()),
                  view.departure().person()));
          return part.stock(Sheet.of(all));
        });
  }

  private DepartureAccount started(View view, Ownership ownership, DepartureAccount part)
      throws Unreachable {
    var transfer =
        ownership.startTransfer(
            view.account().observed().id(),
            view.recipient().orElseThrow().observed().id(),
            "ebb-handover-%d-%d".formatted(part.id(), part.attempt()));
    return part.started(transfer.id()).lookAgain(Instant.now());
  }

  private DepartureAccount followed(View view, Ownership ownership, DepartureAccount part)
      throws Unreachable {
    var transfer = ownership.transfer(part.transfer());
    return switch (transfer.state()) {
      case RUNNING -> part.lookAgain(Instant.now().plus(BETWEEN_POLLS));
      case FAILED -> failed(view, part, transferFailed(part, transfer.detail()));
      case DONE -> proven(view, ownership, part);
    };
  }

  /** The application's word is not enough: both sides are counted and compared. */
  private DepartureAccount proven(View view, Ownership ownership, DepartureAccount part)
      throws Unreachable {
    var owned =
        database.read(session -> departures.items(session, part.id())).stream()
            .filter(Item::transferable)
            .collect(Collectors.toMap(Item::id, item -> item));
    List<Item> left = new ArrayList<>();
    ownership.items(view.account().observed().id(), left::add);
    Map<String, Item> arrived = new HashMap<>();
    ownership.items(
        view.recipient().orElseThrow().observed().id(),
        item -> {
          if (owned.containsKey(item.id())) {
            arrived.put(item.id(), item);
          }
        });
    var open = Proof.check(List.copyOf(owned.values()), left, arrived, recipientName(view));
    if (!open.isEmpty()) {
      return failed(view, part, open.getFirst());
    }
    note(view, "handover of %d items in %s is proven".formatted(owned.size(), part.application()));
    return part.proven(clock.instant()).lookAgain(Instant.now());
  }

  private DepartureAccount failed(View view, DepartureAccount part, Problem problem) {
    note(view, "handover in %s failed: %s".formatted(part.application(), problem.code()));
    return part.failed(problem).lookAgain(Instant.now().plus(BETWEEN_LOOKS));
  }

  private String recipientName(View view) {
    return database
        .read(session -> people.get(session, view.departure().recipient()))
        .map(stored -> stored.displayName())
        .orElse("the recipient");
  }

  private void note(View view, String what) {
    database.writeAll(
        session ->
            journal.write(
                session,
                clock.instant(),
                Deed.of(
                    "ebb",
                    "departure %d: %s".formatted(view.departure().id(), what),
                    view.departure().person())));
  }

  private DepartureAccount windowOpened(View view, DepartureAccount part) {
    var until = clock.today().plusDays(view.restoreDays());
    note(view, "the account in %s can be restored until %s".formatted(part.application(), until));
    return part.restorableUntil(until).lookAgain(Instant.now().plus(BETWEEN_LOOKS));
  }

  private DepartureAccount staying(View view, DepartureAccount part) {
    note(view, "the account in %s stays suspended, as is said of it".formatted(part.application()));
    return part.staying();
  }

  /** Kept first: when the deletion is claimed the gates are looked at again, by what is kept. */
  private DepartureAccount deletionAsked(View view, DepartureAccount found) {
    var kept = kept(found);
    if (kept.isEmpty()) {
      return found;
    }
    var set =
        proposals.steps(
            Cause.DEPARTURE,
            "deletion by departure " + view.departure().id(),
            Releases.BY_ITSELF,
            List.of(draft(view, Step.of(ChangeKind.DELETE, ground(view)))));
    releases.releaseByItself(set);
    return kept.get().askedDeletion(true);
  }

  /** Empty if somebody else wrote it meanwhile: then it is looked at again. */
  private Optional<DepartureAccount> kept(DepartureAccount found) {
    return database.write(
        session ->
            departures.updateAccount(session, found)
                ? departures.account(session, found.id())
                : Optional.empty());
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

  private static Problem transferFailed(DepartureAccount part, String detail) {
    return new Problem(
        "handover-failed",
        "%s could not hand everything over: %s".formatted(part.application(), detail),
        "Removal stays shut until everything is proven to have arrived.",
        "Mend what it says, then retry the handover.",
        null);
  }
}
