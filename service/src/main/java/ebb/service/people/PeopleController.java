package ebb.service.people;

import ebb.api.ChangeSetView;
import ebb.api.GrantRequest;
import ebb.api.GrantView;
import ebb.api.HoldRequest;
import ebb.api.HoldView;
import ebb.api.PersonEdit;
import ebb.api.PersonView;
import ebb.api.ValueView;
import ebb.api.ValueView.OtherValueView;
import ebb.core.change.ChangeSet;
import ebb.core.imports.Source;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.core.person.Assertions;
import ebb.core.person.Grant;
import ebb.core.person.Held;
import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.changes.ChangeViews;
import ebb.service.emergency.EmergencyViews;
import ebb.service.reach.Reaches;
import ebb.service.suspensions.SuspensionViews;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.changes.Changes;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Grants;
import ebb.store.people.Holds;
import ebb.store.people.Logins;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredPerson;
import java.net.URI;
import java.security.Principal;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/people")
class PeopleController {
  private static final int LATEST_CHANGES = 20;

  private final Database database;
  private final BusinessClock clock;
  private final People people;
  private final Sources sources;
  private final Logins logins;
  private final Grants grants;
  private final Holds holds;
  private final Accounts accounts;
  private final Changes changes;
  private final Departures departures;
  private final ChangeViews views;
  private final HandEdits edits;
  private final Journal journal;
  private final Reaches reaches;
  private final EmergencyViews emergencies;
  private final SuspensionViews suspensions;

  PeopleController(
      Database database,
      BusinessClock clock,
      People people,
      Sources sources,
      Logins logins,
      Grants grants,
      Holds holds,
      Accounts accounts,
      Changes changes,
      Departures departures,
      ChangeViews views,
      HandEdits edits,
      Journal journal,
      Reaches reaches,
      EmergencyViews emergencies,
      SuspensionViews suspensions) {
    this.suspensions = suspensions;
    this.emergencies = emergencies;
    this.reaches = reaches;
    this.database = database;
    this.clock = clock;
    this.people = people;
    this.sources = sources;
    this.logins = logins;
    this.grants = grants;
    this.holds = holds;
    this.accounts = accounts;
    this.changes = changes;
    this.departures = departures;
    this.views = views;
    this.edits = edits;
    this.journal = journal;
  }

  @Allowed(Act.SEE)
  @GetMapping("/{id}")
  ResponseEntity<PersonView> show(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = edits.get(new PersonId(id));
    var view = database.read(session -> view(session, person, Callers.of(principal)));
    return Requests.tagged(view.version(), view);
  }

  /** Shows, as a change set, what a new person would get. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping
  ResponseEntity<ChangeSetView> add(@RequestBody PersonEdit request, Principal principal) {
    return shown(
        edits.add(
            request.attributes(), principal.getName(), one -> reaches.require(principal, one)));
  }

  /** Shows, as a change set, what an edit would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PatchMapping("/{id}")
  ResponseEntity<ChangeSetView> edit(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody PersonEdit request,
      Principal principal) {
    reaches.require(principal, id);
    return shown(
        edits.edit(
            new PersonId(id),
            request.attributes(),
            request.until(),
            Requests.version(ifMatch),
            principal.getName(),
            one -> reaches.require(principal, one)));
  }

  /** Makes all passwords of a person unusable, and asks them for a new one. */
  @Allowed(Act.RESET)
  @PostMapping("/{id}/reset")
  ResponseEntity<ChangeSetView> reset(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    return shown(edits.reset(new PersonId(id), principal.getName()));
  }

  /** Shows, as a change set, what giving a group would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{id}/grants")
  ResponseEntity<ChangeSetView> give(
      @PathVariable long id, @RequestBody GrantRequest request, Principal principal) {
    reaches.require(principal, id);
    return shown(
        edits.give(
            new PersonId(id),
            Requests.required(request.application(), "application"),
            Requests.required(request.group(), "group"),
            Requests.required(request.reason(), "reason"),
            request.from(),
            request.until(),
            principal.getName()));
  }

  /** Shows, as a change set, what ending a grant would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @DeleteMapping("/{id}/grants/{grant}")
  ResponseEntity<ChangeSetView> end(
      @PathVariable long id, @PathVariable long grant, Principal principal) {
    reaches.require(principal, id);
    return shown(edits.end(new PersonId(id), grant, principal.getName()));
  }

  /** Orders that nothing of a person may be removed. In force at once. */
  @Allowed(Act.SET_HOLD)
  @PostMapping("/{id}/holds")
  @ResponseStatus(HttpStatus.CREATED)
  HoldView hold(@PathVariable long id, @RequestBody HoldRequest request, Principal principal) {
    reaches.require(principal, id);
    var person = edits.get(new PersonId(id)).person().id();
    var reason = Requests.required(request.reason(), "reason");
    return database.write(
        session -> {
          var hold = holds.set(session, person, reason, principal.getName(), request.until());
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), "set hold " + hold.id(), person).because(reason));
          departures.lookSoon(session);
          return view(hold);
        });
  }

  @Allowed(Act.LIFT_HOLD)
  @DeleteMapping("/{id}/holds/{hold}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void lift(@PathVariable long id, @PathVariable long hold, Principal principal) {
    reaches.require(principal, id);
    var person = new PersonId(id);
    database.writeAll(
        session -> {
          if (!holds.lift(session, person, hold, Instant.now())) {
            throw Refusal.notFound("hold in force", hold, "See: ebb people show " + id);
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), "lifted hold " + hold, person));
          departures.lookSoon(session);
        });
  }

  private ResponseEntity<ChangeSetView> shown(ChangeSet set) {
    var view = database.read(session -> views.view(session, set));
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .eTag("\"" + set.version() + "\"")
        .body(view);
  }

  private PersonView view(StatelessSession session, StoredPerson stored, Caller caller) {
    var person = stored.person();
    var id = person.id();
    var attributes = new TreeMap<String, ValueView>();
    var said = said(session, id);
    person.attributes().forEach((name, held) -> attributes.put(name, view(held, name, said)));
    return new PersonView(
        id.value(),
        stored.version(),
        stored.displayName(),
        person.stage(clock.instant(), clock.zone()).word(),
        stored.login(),
        logins.of(session, List.of(id)).getOrDefault(id, Logins.Held.NONE).aliases(),
        attributes,
        accounts.of(session, List.of(id)).getOrDefault(id, List.of()).stream()
            .map(AccountViews::view)
            .toList(),
        grants.of(session, List.of(id)).getOrDefault(id, List.of()).stream()
            .map(PeopleController::view)
            .toList(),
        holds.of(session, id).stream().map(PeopleController::view).toList(),
        emergencies.of(session, id).orElse(null),
        suspensions.of(session, id, caller),
        views.views(session, changes.ofPerson(session, id, LATEST_CHANGES)));
  }

  /** What each source says of a person, the strongest first. */
  private List<Assertions> said(StatelessSession session, PersonId id) {
    var order = sources.list(session).stream().map(Source::name).toList();
    return people.assertions(session, List.of(id)).getOrDefault(id, List.of()).stream()
        .sorted(Comparator.comparingInt(one -> order.indexOf(one.source())))
        .toList();
  }

  private static ValueView view(Held held, String name, List<Assertions> said) {
    return new ValueView(
        held.value(),
        held.source(),
        held.since(),
        said.stream()
            .filter(one -> one.source().equals(held.source()))
            .map(one -> one.values().get(name).until())
            .filter(Objects::nonNull)
            .findFirst()
            .orElse(null),
        said.stream()
            .filter(one -> !one.source().equals(held.source()) && one.values().containsKey(name))
            .map(
                one ->
                    new OtherValueView(
                        one.values().get(name).value(),
                        one.source(),
                        one.values().get(name).since()))
            .toList());
  }

  private static GrantView view(Grant grant) {
    return new GrantView(
        grant.id(),
        grant.application(),
        grant.group(),
        grant.reason(),
        grant.from(),
        grant.until());
  }

  private static HoldView view(Hold hold) {
    return new HoldView(hold.id(), hold.reason(), hold.setBy(), hold.until());
  }
}
