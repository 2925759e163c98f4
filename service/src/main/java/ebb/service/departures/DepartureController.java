package ebb.service.departures;

import ebb.api.DepartureAccountView;
import ebb.api.DepartureView;
import ebb.api.GateView;
import ebb.api.Listing;
import ebb.api.RecipientRequest;
import ebb.api.WaiverRequest;
import ebb.core.application.Level;
import ebb.core.departure.Departure;
import ebb.core.departure.Gate;
import ebb.core.handover.Sheet;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
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
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.security.Principal;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
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
  private final Journal journal;
  private final Reaches reaches;

  DepartureController(
      Database database,
      BusinessClock clock,
      Departures departures,
      Accounts accounts,
      People people,
      GateKeeper gates,
      Journal journal,
      Reaches reaches) {
    this.reaches = reaches;
    this.database = database;
    this.clock = clock;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.gates = gates;
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
          var named =
              people
                  .get(session, recipient)
                  .orElseThrow(
                      () ->
                          Refusal.notFound(
                              "person", recipient, "Find them: ebb people list --name NAME"));
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
    return new DepartureView(
        departure.id(),
        departure.version(),
        departure.person().value(),
        names.get(departure.person()),
        departure.closing(),
        departure.state().word(),
        departure.lastDay(),
        departure.recipient() == null ? null : departure.recipient().value(),
        departure.recipient() == null ? null : names.get(departure.recipient()),
        departure.reason(),
        departure.startedAt(),
        departure.endedAt(),
        departures.accounts(session, departure.id()).stream()
            .map(part -> view(session, departure, part))
            .toList());
  }

  private DepartureAccountView view(
      StatelessSession session, Departure departure, DepartureAccount part) {
    var account = accounts.get(session, part.account()).orElseThrow();
    var isOver = departure.state() != Departure.State.RUNNING || account.level() == Level.GONE;
    List<Gate> all = isOver ? List.of() : gates.gates(session, part);
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
        next(account, all, isOver));
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
                                line.getValue().transferable() ? "" : ", cannot be handed over"),
                    (one, _) -> one,
                    TreeMap::new));
  }

  private static GateView view(Gate gate) {
    return new GateView(
        gate.name(),
        gate.state().name().toLowerCase(Locale.ROOT).replace('_', ' '),
        gate.why(),
        gate.remedy());
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
