package ebb.service.changes;

import ebb.api.ChangeSetView;
import ebb.api.ChangeView;
import ebb.api.Listing;
import ebb.api.OutcomeView;
import ebb.api.ReleaseRequest;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.SetState;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.Page;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.people.People;
import java.io.IOException;
import java.net.URI;
import java.security.Principal;
import java.time.Duration;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

@RestController
@RequestMapping("/api/v1/change-sets")
class ChangeSetController {
  private static final Duration BETWEEN_EVENTS = Duration.ofMillis(250);
  private static final Duration LONGEST_STREAM = Duration.ofMinutes(30);
  private static final Duration LONGEST_WAIT = Duration.ofSeconds(5);
  private static final String QUEUED = "queued";
  private static final Set<String> UNDER_WAY = Set.of(QUEUED, "claimed", "unsure");

  private final Database database;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final People people;
  private final ChangeViews views;
  private final Releases releases;
  private final TakeBacks takeBacks;
  private final Reaches reaches;
  private final Resting resting;
  private volatile boolean isStopping;

  ChangeSetController(
      Database database,
      ChangeSets changeSets,
      Changes changes,
      People people,
      ChangeViews views,
      Releases releases,
      TakeBacks takeBacks,
      Reaches reaches,
      Resting resting) {
    this.resting = resting;
    this.reaches = reaches;
    this.database = database;
    this.changeSets = changeSets;
    this.changes = changes;
    this.people = people;
    this.views = views;
    this.releases = releases;
    this.takeBacks = takeBacks;
  }

  @Allowed(Act.SEE)
  @GetMapping
  Listing<ChangeSetView> list(
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var caller = Callers.of(principal);
    return database.read(
        session ->
            Requests.listing(
                changeSets.list(
                    session,
                    Requests.word(SetState.class, state, "state"),
                    caller.reach(),
                    caller.name(),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                set -> views.view(session, set)));
  }

  @Allowed(Act.SEE)
  @GetMapping("/{id}")
  ResponseEntity<ChangeSetView> show(@PathVariable long id, Principal principal) {
    reaches.requireSomeOfSet(principal, id);
    var view = view(id);
    return Requests.tagged(view.version(), view);
  }

  @Allowed(Act.SEE)
  @GetMapping("/{id}/changes")
  Listing<ChangeView> changes(
      @PathVariable long id,
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String application,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    return database.read(
        session -> {
          var page =
              changes.list(
                  session,
                  id,
                  Requests.word(ChangeState.class, state, "state"),
                  application,
                  Callers.of(principal).reach(),
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          return Requests.listing(
              new Page<>(views.views(session, page.items()), page.next()), view -> view);
        });
  }

  /**
   * What a set does, person by person.
   *
   * @param outcome open, done or failed; left out for all
   */
  @Allowed(Act.SEE)
  @GetMapping("/{id}/people")
  Listing<OutcomeView> people(
      @PathVariable long id,
      @RequestParam(required = false) Outcome outcome,
      @RequestParam(required = false) String application,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var most = Requests.limit(limit);
    return database.read(
        session -> {
          var found =
              changes.people(
                  session,
                  id,
                  outcome == null ? null : outcome.states,
                  application,
                  Callers.of(principal).reach(),
                  Requests.cursor(cursor),
                  most + 1);
          var shown = found.subList(0, Math.min(most, found.size()));
          return Listing.page(
              outcomes(session, id, shown),
              found.size() > most ? shown.getLast().toString() : null);
        });
  }

  /** How far a set has come with a change. */
  enum Outcome {
    open(
        EnumSet.of(
            ChangeState.PROPOSED, ChangeState.QUEUED, ChangeState.CLAIMED, ChangeState.UNSURE)),
    done(EnumSet.of(ChangeState.SEEN, ChangeState.ACCEPTED)),
    failed(EnumSet.of(ChangeState.REFUSED, ChangeState.BLOCKED));

    private final Set<ChangeState> states;

    Outcome(Set<ChangeState> states) {
      this.states = states;
    }
  }

  private List<OutcomeView> outcomes(StatelessSession session, long id, List<PersonId> people) {
    if (people.isEmpty()) {
      return List.of();
    }
    var byPerson =
        views.views(session, changes.of(session, id, people)).stream()
            .collect(
                Collectors.groupingBy(ChangeView::person, LinkedHashMap::new, Collectors.toList()));
    var known = this.people.displayNames(session, people).keySet();
    return people.stream()
        .map(
            person -> {
              var all = byPerson.get(person.value());
              return new OutcomeView(
                  person.value(), all.getFirst().displayName(), known.contains(person), all);
            })
        .toList();
  }

  /**
   * Lets a set through. Answers once its inputs are taken in, or after some seconds; what is left
   * goes on by itself, and is followed.
   */
  @Allowed(Act.RELEASE)
  @PostMapping("/{id}/release")
  ResponseEntity<ChangeSetView> release(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody(required = false) ReleaseRequest request,
      Principal principal) {
    reaches.requireSet(principal, id);
    var reason = request == null ? null : request.reason();
    if (reason != null && !reason.isBlank()) {
      Callers.of(principal).require(Act.PASS_STOP);
    }
    if (!view(id).rules().isEmpty()) {
      Callers.of(principal).require(Act.EDIT_SETTINGS);
    }
    releases.release(
        id,
        Requests.version(ifMatch),
        principal.getName(),
        reason,
        part(id, request),
        LONGEST_WAIT);
    return ResponseEntity.accepted()
        .location(URI.create("/api/v1/change-sets/%d/events".formatted(id)))
        .body(view(id));
  }

  /** Empty for all. */
  private List<PersonId> part(long id, ReleaseRequest request) {
    if (request != null && request.people() != null) {
      return request.people().stream().map(PersonId::new).toList();
    }
    return request == null || request.first() == null
        ? List.of()
        : releases.first(id, Math.max(1, request.first()));
  }

  @Allowed(Act.RELEASE)
  @PostMapping("/{id}/discard")
  ChangeSetView discard(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      Principal principal) {
    reaches.requireSet(principal, id);
    releases.discard(id, Requests.version(ifMatch), principal.getName());
    return view(id);
  }

  @Allowed(Act.RELEASE)
  @PostMapping("/{id}/retry")
  ChangeSetView retry(@PathVariable long id, Principal principal) {
    reaches.requireSet(principal, id);
    releases.retry(id, principal.getName());
    return view(id);
  }

  /** Lets a run go on that stopped because too much of it was refused. */
  @Allowed(Act.RELEASE)
  @PostMapping("/{id}/go-on")
  ChangeSetView goOn(@PathVariable long id, Principal principal) {
    reaches.requireSet(principal, id);
    releases.goOn(id, principal.getName());
    return view(id);
  }

  /** Shows, as a new set, what taking this one back would do. */
  @Allowed(Act.RELEASE)
  @PostMapping("/{id}/take-back")
  ResponseEntity<ChangeSetView> takeBack(@PathVariable long id, Principal principal) {
    reaches.requireSet(principal, id);
    ChangeSet set = takeBacks.takeBack(id, principal.getName());
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .body(view(set.id()));
  }

  /**
   * Progress as server-sent events, one whenever something has changed, until nothing is under way
   * but what waits for an application that rests; then one that is called over.
   */
  @Allowed(Act.SEE)
  @GetMapping(path = "/{id}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter events(@PathVariable long id, Principal principal) {
    reaches.requireSomeOfSet(principal, id);
    var first = view(id);
    var emitter = new SseEmitter(LONGEST_STREAM.toMillis());
    Thread.ofVirtual().name("events-" + id).start(() -> follow(emitter, id, first));
    return emitter;
  }

  /** Who follows asks again once the service is back. */
  @EventListener(ContextClosedEvent.class)
  void stop() {
    isStopping = true;
  }

  private void follow(SseEmitter emitter, long id, ChangeSetView first) {
    try {
      ChangeSetView last = null;
      for (var view = first; ; view = view(id)) {
        if (!view.equals(last)) {
          emitter.send(SseEmitter.event().name("progress").data(view, MediaType.APPLICATION_JSON));
          last = view;
        }
        if (!isUnderWay(view)) {
          emitter.send(SseEmitter.event().name("over").data(view, MediaType.APPLICATION_JSON));
        }
        if (isStopping || !isUnderWay(view)) {
          emitter.complete();
          return;
        }
        Thread.sleep(BETWEEN_EVENTS);
      }
    } catch (IOException | IllegalStateException _) {
      // The reader has gone; the work goes on.
      emitter.complete();
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
      emitter.complete();
    }
  }

  private boolean isUnderWay(ChangeSetView view) {
    if (view.progress() != null) {
      return true;
    }
    var counts = view.counts().stream().filter(count -> UNDER_WAY.contains(count.state())).toList();
    if (counts.isEmpty()) {
      return false;
    }
    var rest = database.read(resting::now);
    return counts.stream()
        .anyMatch(count -> !count.state().equals(QUEUED) || !rest.contains(count.application()));
  }

  private ChangeSetView view(long id) {
    return database.read(
        session ->
            views.view(
                session,
                changeSets
                    .get(session, id)
                    .orElseThrow(
                        () -> Refusal.notFound("change set", id, "See: ebb changes list"))));
  }
}
