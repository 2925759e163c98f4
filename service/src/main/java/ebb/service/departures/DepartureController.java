package ebb.service.departures;

import ebb.api.ApprovalRequest;
import ebb.api.ChangeSetView;
import ebb.api.DepartureDates;
import ebb.api.DepartureStart;
import ebb.api.DepartureView;
import ebb.api.Listing;
import ebb.api.ReasonRequest;
import ebb.api.RecipientRequest;
import ebb.api.WaiverRequest;
import ebb.core.departure.AccountCase;
import ebb.core.departure.Departure;
import ebb.core.departure.Gate;
import ebb.core.operator.Act;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.ChangeViews;
import ebb.service.people.HandEdits;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import ebb.store.departures.Successors;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.net.URI;
import java.security.Principal;
import java.time.LocalDate;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.hibernate.StatelessSession;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/departures")
class DepartureController {
  private final Database database;
  private final BusinessClock clock;
  private final Departures departures;
  private final People people;
  private final GateKeeper gates;
  private final DepartureViews views;
  private final Successors successors;
  private final HandEdits edits;
  private final ChangeViews sets;
  private final Journal journal;
  private final Reaches reaches;
  private final DepartureBook book;
  private final HandoverItems items;

  DepartureController(
      Database database,
      BusinessClock clock,
      Departures departures,
      People people,
      GateKeeper gates,
      DepartureViews views,
      Successors successors,
      HandEdits edits,
      ChangeViews sets,
      Journal journal,
      Reaches reaches,
      DepartureBook book,
      HandoverItems items) {
    this.items = items;
    this.book = book;
    this.reaches = reaches;
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.people = people;
    this.gates = gates;
    this.views = views;
    this.successors = successors;
    this.edits = edits;
    this.sets = sets;
    this.journal = journal;
  }

  /**
   * Departures in the order in which they began.
   *
   * @param state running, turned-back or done
   */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<DepartureView> list(
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    return database.read(
        session ->
            Requests.listing(
                departures.list(
                    session,
                    Requests.word(Departure.State.class, state, "state"),
                    Callers.of(principal).reach(),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                departure -> views.view(session, departure)));
  }

  @Allowed(Act.SEE)
  @GetMapping("/{id}")
  ResponseEntity<DepartureView> show(@PathVariable long id, Principal principal) {
    reaches.requireDeparture(principal, id);
    var view = database.read(session -> views.view(session, get(session, id)));
    return Requests.tagged(view.version(), view);
  }

  /**
   * Shows, as a change set, that somebody leaves. A last day that has passed begins the departure
   * with the release.
   */
  @Allowed(Act.DEPARTURES)
  @PostMapping
  ResponseEntity<ChangeSetView> start(@RequestBody DepartureStart request, Principal principal) {
    reaches.require(principal, request.person());
    var lastDay = request.lastDay();
    if (lastDay == null) {
      throw Refusal.invalid(
          new Problem(
              "last-day-missing",
              "It is not said when they leave.",
              "Everything that follows counts from the last day.",
              "Name the last day of use; today, if they have left.",
              Where.field("lastDay")));
    }
    var person = new PersonId(request.person());
    if (request.successor() != null) {
      nameSuccessor(person, new PersonId(request.successor()), principal);
    }
    var set =
        edits.edit(
            person,
            Map.of(Attributes.END_DATE, lastDay.toString()),
            null,
            null,
            principal.getName(),
            one -> reaches.require(principal, one));
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .eTag("\"" + set.version() + "\"")
        .body(database.read(session -> sets.view(session, set)));
  }

  private void nameSuccessor(PersonId person, PersonId successor, Principal principal) {
    reaches.require(principal, successor.value());
    database.writeAll(
        session -> {
          if (successor.equals(person)) {
            throw Refusal.invalid(
                new Problem(
                    "own-successor",
                    "Nobody succeeds themselves.",
                    "What they leave behind would go with them.",
                    "Name somebody else.",
                    Where.field("successor")));
          }
          var named = named(session, successor);
          successors.put(session, person, successor, principal.getName(), clock.instant());
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  principal.getName(),
                  "named %s, who gets what they leave behind".formatted(named.person().id()),
                  person));
        });
  }

  private StoredPerson named(StatelessSession session, PersonId id) {
    return people
        .get(session, id)
        .orElseThrow(
            () -> Refusal.notFound("person", id, "Find them: ebb people list --name NAME"));
  }

  /** Says by name that they are not coming back. */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/confirmation")
  ResponseEntity<DepartureView> confirm(
      @PathVariable long id, @RequestBody ReasonRequest request, Principal principal) {
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    return write(
        id,
        principal,
        "they are not coming back",
        reason,
        departure -> departure.notReturning("%s, says %s".formatted(reason, principal.getName())));
  }

  /** Stops it for a time: nothing is handed over and nothing removed. */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/pause")
  ResponseEntity<DepartureView> pauseDeparture(
      @PathVariable long id, @RequestBody ReasonRequest request, Principal principal) {
    var reason = Requests.required(request.reason(), "reason");
    return write(
        id,
        principal,
        "paused",
        reason,
        departure -> departure.paused("by %s: %s".formatted(principal.getName(), reason)));
  }

  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/go-on")
  ResponseEntity<DepartureView> letDepartureGoOn(@PathVariable long id, Principal principal) {
    return write(id, principal, "let go on", null, departure -> departure.paused(null));
  }

  /** Moves what lies ahead to other days. */
  @Allowed(Act.DEPARTURES)
  @PutMapping("/{id}/dates")
  ResponseEntity<DepartureView> moveDeparture(
      @PathVariable long id, @RequestBody DepartureDates request, Principal principal) {
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    return write(
        id,
        principal,
        "handover from %s, deletion from %s"
            .formatted(orAsItWas(request.handOverFrom()), orAsItWas(request.deleteFrom())),
        reason,
        departure -> moved(departure, request),
        request.deleteFrom());
  }

  private static String orAsItWas(LocalDate day) {
    return day == null ? "the day there was" : day.toString();
  }

  private static Departure moved(Departure departure, DepartureDates request) {
    return request.handOverFrom() == null
        ? departure
        : departure.moved(departure.lastDay(), request.handOverFrom());
  }

  private void moveParts(StatelessSession session, Departure departure, LocalDate deleteFrom) {
    for (var part : departures.accounts(session, departure.id())) {
      var day = deleteFrom == null ? part.deleteFrom() : deleteFrom;
      if (day.isBefore(departure.handOverFrom())) {
        throw Refusal.invalid(
            new Problem(
                "departure-days",
                "The deletion from %s is before the handover from %s."
                    .formatted(day, departure.handOverFrom()),
                "Nothing is deleted before it is handed over.",
                "Name a later day for the one, or an earlier for the other.",
                Where.field("deleteFrom")));
      }
      if (!day.equals(part.deleteFrom())) {
        departures.updateAccount(session, part.deletedFrom(day));
      }
    }
  }

  /** Something said of a departure under way, with the deed in the journal. */
  private ResponseEntity<DepartureView> write(
      long id, Principal principal, String deed, String reason, UnaryOperator<Departure> change) {
    return write(id, principal, deed, reason, change, null);
  }

  private ResponseEntity<DepartureView> write(
      long id,
      Principal principal,
      String deed,
      String reason,
      UnaryOperator<Departure> change,
      LocalDate deleteFrom) {
    reaches.requireDeparture(principal, id);
    database.writeAll(
        session -> {
          var departure = running(session, id);
          var next = change.apply(departure);
          departures.update(session, next);
          moveParts(session, next, deleteFrom);
          departures.lookSoon(session);
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                      principal.getName(),
                      "departure %d: %s".formatted(id, deed),
                      departure.person())
                  .because(reason));
        });
    return show(id, principal);
  }

  /** Names who gets what the accounts own. */
  @Allowed(Act.DEPARTURES)
  @PutMapping("/{id}/recipient")
  ResponseEntity<DepartureView> recipient(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody RecipientRequest request,
      Principal principal) {
    reaches.requireDeparture(principal, id);
    reaches.require(principal, request.person());
    var recipient = new PersonId(request.person());
    database.writeAll(
        session -> {
          var departure = running(session, id);
          Requests.expect("Departure " + id, Requests.version(ifMatch), departure.version());
          var named = named(session, recipient);
          departures.update(session, departure.to(recipient));
          book.named(session, departure.to(recipient), clock.instant());
          departures.lookSoon(session);
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  principal.getName(),
                  "departure %d: recipient is %s".formatted(id, named.person().id()),
                  departure.person()));
        });
    return show(id, principal);
  }

  /** Opens a gate that cannot open by itself, by name and reason. */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/waivers")
  ResponseEntity<DepartureView> waive(
      @PathVariable long id, @RequestBody WaiverRequest request, Principal principal) {
    reaches.requireDeparture(principal, id);
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    var name = Requests.required(request.gate(), "gate");
    database.writeAll(
        session -> {
          var departure = running(session, id);
          var part = part(session, id, request.account());
          var gate = gate(session, id, part, name);
          if (!gate.canBeWaived()) {
            throw Refusal.conflict(cannotBeWaived(gate));
          }
          departures.updateAccount(session, part.waived(name, by(principal, reason)));
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                      principal.getName(),
                      "departure %d: waived gate %s in %s".formatted(id, name, part.application()),
                      departure.person())
                  .because(reason));
        });
    return show(id, principal);
  }

  /**
   * Approves the deletion of an account that owned much. Not by whom it concerns, nor by who waived
   * a gate of it, left something out of its handover, or ordered its removal.
   */
  @Allowed(Act.APPROVE)
  @PostMapping("/{id}/approvals")
  ResponseEntity<DepartureView> approve(
      @PathVariable long id, @RequestBody ApprovalRequest request, Principal principal) {
    reaches.requireDeparture(principal, id);
    reaches.requireNotOwn(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    database.writeAll(
        session -> {
          var departure = running(session, id);
          var part = part(session, id, request.account());
          var account = gates.caseOf(session, departure, part);
          var gate = gate(session, id, part, AccountCase.APPROVAL);
          if (gate.isOpen() || !gate.needsSomebody()) {
            throw Refusal.conflict(nothingToApprove(gate));
          }
          if (account.isDecidedBy(principal.getName())
              || departure.isOrderedBy(principal.getName())
              || items.isLeftOutBy(session, part.id(), principal.getName())) {
            throw new Refusal(Refusal.Kind.FORBIDDEN, approvesThemselves(principal));
          }
          departures.updateAccount(
              session, part.waived(AccountCase.APPROVAL, by(principal, reason)));
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                      principal.getName(),
                      "departure %d: approved the removal from %s"
                          .formatted(id, part.application()),
                      departure.person())
                  .because(reason));
        });
    return show(id, principal);
  }

  private static String by(Principal principal, String reason) {
    return "%s: %s".formatted(principal.getName(), reason);
  }

  private Gate gate(StatelessSession session, long id, DepartureAccount part, String name) {
    return gates.gates(session, part).stream()
        .filter(one -> one.name().equals(name))
        .findFirst()
        .orElseThrow(() -> Refusal.notFound("gate", name, "See: ebb departures show " + id));
  }

  /** Tries failed handovers again; what arrived is not handed over twice. */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/{id}/retry")
  ResponseEntity<DepartureView> retry(@PathVariable long id, Principal principal) {
    reaches.requireDeparture(principal, id);
    database.writeAll(
        session -> {
          var departure = running(session, id);
          var failed =
              departures.accounts(session, id).stream()
                  .filter(part -> part.problem() != null)
                  .toList();
          if (failed.isEmpty()) {
            throw Refusal.conflict(nothingToRetry(id));
          }
          failed.forEach(part -> departures.updateAccount(session, part.retried()));
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  principal.getName(), "departure %d: retried".formatted(id), departure.person()));
        });
    return show(id, principal);
  }

  private Departure get(StatelessSession session, long id) {
    return departures
        .get(session, id)
        .orElseThrow(() -> Refusal.notFound("departure", id, "See: ebb departures list"));
  }

  private Departure running(StatelessSession session, long id) {
    var departure = get(session, id);
    if (departure.state() != Departure.State.RUNNING) {
      throw Refusal.conflict(
          new Problem(
              "departure-over",
              "Departure %d is %s.".formatted(id, departure.state().word()),
              "Nothing of it can be changed any more.",
              "See: ebb departures show " + id,
              null));
    }
    return departure;
  }

  private DepartureAccount part(StatelessSession session, long departure, long id) {
    return departures.accounts(session, departure).stream()
        .filter(part -> part.id() == id)
        .findFirst()
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "account of this departure", id, "See: ebb departures show " + departure));
  }

  private static Problem cannotBeWaived(Gate gate) {
    return new Problem(
        "gate-cannot-be-waived",
        "The gate %s cannot be waived.".formatted(gate.name()),
        gate.why(),
        gate.remedy() == null ? "It is open already." : gate.remedy(),
        Where.field("gate"));
  }

  private static Problem nothingToApprove(Gate gate) {
    return new Problem(
        "nothing-to-approve",
        "There is nothing to approve.",
        gate.why(),
        gate.remedy() == null ? "Nothing need be done." : gate.remedy(),
        Where.field("account"));
  }

  private static Problem approvesThemselves(Principal principal) {
    return new Problem(
        "approval-of-oneself",
        "%s has decided about this account already.".formatted(principal.getName()),
        "Who waived a gate, left something out or ordered the removal does not approve it.",
        "Have another administrator look at it.",
        null);
  }

  private static Problem nothingToRetry(long id) {
    return new Problem(
        "nothing-to-retry",
        "Nothing of departure %d has failed.".formatted(id),
        "A gate that is shut for another reason does not open by a retry.",
        "See which gate is shut: ebb departures show " + id,
        null);
  }
}
