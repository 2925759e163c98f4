package ebb.service.departures;

import ebb.api.ChangeSetView;
import ebb.api.DepartureAccountView;
import ebb.api.DepartureDates;
import ebb.api.DepartureStart;
import ebb.api.DepartureStepView;
import ebb.api.DepartureView;
import ebb.api.GateView;
import ebb.api.Listing;
import ebb.api.ReasonRequest;
import ebb.api.RecipientRequest;
import ebb.api.WaiverRequest;
import ebb.core.application.Level;
import ebb.core.departure.Departure;
import ebb.core.departure.DepartureStep;
import ebb.core.departure.DepartureSteps;
import ebb.core.departure.Gate;
import ebb.core.handover.Sheet;
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
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.Successors;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.net.URI;
import java.security.Principal;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
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
  private final Accounts accounts;
  private final People people;
  private final GateKeeper gates;
  private final Successors successors;
  private final HandEdits edits;
  private final ChangeViews sets;
  private final Journal journal;
  private final Reaches reaches;

  DepartureController(
      Database database,
      BusinessClock clock,
      Departures departures,
      Accounts accounts,
      People people,
      GateKeeper gates,
      Successors successors,
      HandEdits edits,
      ChangeViews sets,
      Journal journal,
      Reaches reaches) {
    this.reaches = reaches;
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.gates = gates;
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
                departure -> view(session, departure)));
  }

  @Allowed(Act.SEE)
  @GetMapping("/{id}")
  ResponseEntity<DepartureView> show(@PathVariable long id, Principal principal) {
    reaches.requireDeparture(principal, id);
    var view = database.read(session -> view(session, get(session, id)));
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
          var gate =
              gates.gates(session, part).stream()
                  .filter(one -> one.name().equals(name))
                  .findFirst()
                  .orElseThrow(
                      () -> Refusal.notFound("gate", name, "See: ebb departures show " + id));
          if (!gate.canBeWaived()) {
            throw Refusal.conflict(cannotBeWaived(gate));
          }
          departures.updateAccount(session, part.waived(name, reason));
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

  private DepartureView view(StatelessSession session, Departure departure) {
    var names =
        people.displayNames(
            session,
            departure.recipient() == null
                ? Set.of(departure.person())
                : Set.of(departure.person(), departure.recipient()));
    var parts = departures.accounts(session, departure.id());
    var isRunning = departure.state() == Departure.State.RUNNING;
    var cases =
        parts.stream()
            .map(part -> gates.caseOf(session, departure, part))
            .map(
                account ->
                    new DepartureSteps.Part(
                        account, isRunning ? gates.gates(session, departure, account) : List.of()))
            .toList();
    return new DepartureView(
        departure.id(),
        departure.version(),
        departure.person().value(),
        names.get(departure.person()),
        departure.closing(),
        departure.state().word(),
        departure.lastDay(),
        departure.handOverFrom(),
        departure.recipient() == null ? null : departure.recipient().value(),
        departure.recipient() == null ? null : names.get(departure.recipient()),
        departure.reason(),
        departure.paused(),
        departure.asksReturn(),
        departure.notReturning(),
        isRunning ? turnsBackUntil(cases) : null,
        departure.startedAt(),
        departure.endedAt(),
        isRunning
            ? DepartureSteps.of(departure, cases, clock.today()).stream()
                .map(DepartureController::view)
                .toList()
            : List.of(),
        IntStream.range(0, parts.size())
            .mapToObj(i -> view(session, departure, parts.get(i), cases.get(i)))
            .toList());
  }

  /** The day from which the first account may be gone; null once one is. */
  private static LocalDate turnsBackUntil(List<DepartureSteps.Part> cases) {
    return cases.stream().anyMatch(part -> part.account().level() == Level.GONE)
        ? null
        : cases.stream()
            .filter(part -> !part.account().stays())
            .map(part -> part.account().deleteFrom())
            .min(Comparator.naturalOrder())
            .orElse(null);
  }

  private static DepartureStepView view(DepartureStep step) {
    return new DepartureStepView(step.name(), step.state().word(), step.day(), step.words());
  }

  private DepartureAccountView view(
      StatelessSession session,
      Departure departure,
      DepartureAccount part,
      DepartureSteps.Part found) {
    var account = accounts.get(session, part.account()).orElseThrow();
    var isOver =
        departure.state() != Departure.State.RUNNING
            || account.level() == Level.GONE
            || part.stays();
    List<Gate> all = isOver ? List.of() : found.gates();
    return new DepartureAccountView(
        part.id(),
        part.application(),
        AccountViews.name(account),
        account.level().word(),
        part.deleteFrom(),
        sheet(part.sheet()),
        part.handover().name().toLowerCase(Locale.ROOT),
        part.provenAt(),
        all.stream().map(DepartureController::view).toList(),
        part.stays() ? "nothing: it stays suspended" : next(account, all, isOver));
  }

  private static String next(Account account, List<Gate> gates, boolean isOver) {
    if (isOver) {
      return account.level() == Level.GONE ? "nothing: the account is gone" : "nothing";
    }
    return gates.stream()
        .filter(gate -> !gate.isOpen())
        .findFirst()
        .map(gate -> gate.why() + " " + gate.remedy())
        .orElse("deletion, at any moment");
  }

  private static Map<String, String> sheet(Sheet sheet) {
    return sheet == null
        ? null
        : sheet.lines().entrySet().stream()
            .collect(
                Collectors.toMap(
                    Map.Entry::getKey,
                    line ->
                        "%d, %d bytes%s"
                            .formatted(
                                line.getValue().count(),
                                line.getValue().bytes(),
                                cannotBeHandedOver(line.getValue())),
                    (one, _) -> one,
                    TreeMap::new));
  }

  private static String cannotBeHandedOver(Sheet.Line line) {
    if (line.uncovered() == 0) {
      return "";
    }
    return line.canBeHandedOver()
        ? ", %d of them cannot be handed over".formatted(line.uncovered())
        : ", cannot be handed over";
  }

  private static GateView view(Gate gate) {
    return new GateView(
        gate.name(),
        gate.state().name().toLowerCase(Locale.ROOT).replace('_', ' '),
        gate.why(),
        gate.remedy(),
        gate.needsSomebody());
  }

  private static Problem cannotBeWaived(Gate gate) {
    return new Problem(
        "gate-cannot-be-waived",
        "The gate %s cannot be waived.".formatted(gate.name()),
        gate.why(),
        gate.remedy() == null ? "It is open already." : gate.remedy(),
        Where.field("gate"));
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
