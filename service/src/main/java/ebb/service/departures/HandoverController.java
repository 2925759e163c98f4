package ebb.service.departures;

import ebb.api.DepartureView;
import ebb.api.LeaveOutRequest;
import ebb.api.Listing;
import ebb.api.PieceView;
import ebb.core.departure.Departure;
import ebb.core.handover.Piece;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.connections.Connections;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import java.time.Instant;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What accounts of a departure owned, item by item. Names only: contents are not opened. */
@RestController
@RequestMapping("/api/v1/departures")
class HandoverController {
  private final Database database;
  private final BusinessClock clock;
  private final Departures departures;
  private final HandoverItems items;
  private final Connections connections;
  private final DepartureViews views;
  private final Journal journal;
  private final Reaches reaches;

  HandoverController(
      Database database,
      BusinessClock clock,
      Departures departures,
      HandoverItems items,
      Connections connections,
      DepartureViews views,
      Journal journal,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.items = items;
    this.connections = connections;
    this.views = views;
    this.journal = journal;
    this.reaches = reaches;
  }

  /**
   * What an account owned when stock was taken.
   *
   * @param account number in the departure
   * @param state owned, arrived, failed, left-out or gone; null for all
   */
  @Allowed(Act.SEE)
  @GetMapping("/{id}/accounts/{account}/items")
  Listing<PieceView> pieces(
      @PathVariable long id,
      @PathVariable long account,
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    reaches.requireDeparture(principal, id);
    return database.read(
        session -> {
          var part = part(session, id, account);
          var carried = carriedKinds(part);
          return Requests.listing(
              items.page(
                  session,
                  part.id(),
                  Requests.word(Piece.State.class, state, "state"),
                  cursor,
                  Requests.limit(limit)),
              piece -> view(piece, carried.contains(piece.item().kind())));
        });
  }

  /**
   * Leaves out what has not been handed over, by name and reason; it is removed with its account.
   */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/left-out")
  DepartureView leaveOut(
      @PathVariable long id, @RequestBody LeaveOutRequest request, Principal principal) {
    reaches.requireDeparture(principal, id);
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    if ((request.kind() == null) == (request.item() == null)) {
      throw Refusal.invalid(kindOrItem());
    }
    database.writeAll(
        session -> {
          var part = part(session, id, request.account());
          var departure = departures.get(session, id).orElseThrow();
          requireCarried(session, part, request);
          var count =
              items.leaveOut(
                  session,
                  part.id(),
                  request.kind(),
                  request.item(),
                  "%s: %s".formatted(principal.getName(), reason));
          if (count == 0 || departure.state() != Departure.State.RUNNING) {
            throw Refusal.conflict(nothingToLeaveOut(id));
          }
          departures.updateAccount(session, part.lookAgain(Instant.EPOCH));
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                      principal.getName(),
                      "departure %d: left %d items out of the handover in %s"
                          .formatted(id, count, part.application()),
                      departure.person())
                  .because(reason));
        });
    return database.read(session -> views.view(session, departures.get(session, id).orElseThrow()));
  }

  private DepartureAccount part(StatelessSession session, long departure, long account) {
    return departures
        .account(session, account)
        .filter(part -> part.departure() == departure)
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "account of this departure", account, "See: ebb departures show " + departure));
  }

  /** A transfer of the application's own takes everything. */
  private void requireCarried(
      StatelessSession session, DepartureAccount part, LeaveOutRequest request) {
    var kind =
        request.kind() != null
            ? request.kind()
            : items
                .get(session, part.id(), request.item())
                .map(one -> one.item().kind())
                .orElse("");
    if (!carriedKinds(part).contains(kind)) {
      throw Refusal.conflict(handsOverAll(part, kind));
    }
  }

  /** What Ebb hands over itself there. */
  private Set<String> carriedKinds(DepartureAccount part) {
    return connections.to(part.application()).carriers().stream()
        .flatMap(carrier -> carrier.kinds().stream())
        .collect(Collectors.toSet());
  }

  private static PieceView view(Piece piece, boolean isCarried) {
    return new PieceView(
        piece.item().id(),
        piece.item().kind(),
        piece.item().name(),
        piece.item().bytes(),
        piece.item().sha256(),
        piece.state().word(),
        piece.recipient(),
        piece.place(),
        Problems.view(piece.problem()),
        isCarried,
        piece.leftOut());
  }

  private static Problem kindOrItem() {
    return new Problem(
        "leave-out-what",
        "It is not said what is to be left out.",
        "It is either all of one kind, or one item.",
        "Name a kind, or the id of an item.",
        Where.field("kind"));
  }

  private static Problem handsOverAll(DepartureAccount part, String kind) {
    return new Problem(
        "leave-out-not-possible",
        "Nothing can be left out of %s in %s."
            .formatted(kind.isEmpty() ? "that" : kind, part.application()),
        "There is no such item, or the application hands over everything of that kind at once.",
        "See what is owned there: ebb departures items %d %d"
            .formatted(part.departure(), part.id()),
        Where.field("kind"));
  }

  private static Problem nothingToLeaveOut(long id) {
    return new Problem(
        "nothing-to-leave-out",
        "Nothing of that waits to be handed over.",
        "It has arrived already, is left out already, or the departure is over.",
        "See how far it is: ebb departures show " + id,
        null);
  }
}
