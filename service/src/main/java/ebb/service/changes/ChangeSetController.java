package ebb.service.changes;

import ebb.api.ChangeSetView;
import ebb.api.ChangeView;
import ebb.api.Listing;
import ebb.api.ReleaseRequest;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.SetState;
import ebb.core.problem.Refusal;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.Page;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import java.io.IOException;
import java.net.URI;
import java.security.Principal;
import java.time.Duration;
import java.util.Set;
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
  private static final Set<String> UNDER_WAY = Set.of("queued", "claimed", "unsure");

  private final Database database;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final ChangeViews views;
  private final Releases releases;
  private final TakeBacks takeBacks;

  ChangeSetController(
      Database database,
      ChangeSets changeSets,
      Changes changes,
      ChangeViews views,
      Releases releases,
      TakeBacks takeBacks) {
    this.database = database;
    this.changeSets = changeSets;
    this.changes = changes;
    this.views = views;
    this.releases = releases;
    this.takeBacks = takeBacks;
  }

  @GetMapping
  Listing<ChangeSetView> list(
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session ->
            Requests.listing(
                changeSets.list(
                    session,
                    Requests.word(SetState.class, state, "state"),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                set -> views.view(session, set)));
  }

  @GetMapping("/{id}")
  ResponseEntity<ChangeSetView> show(@PathVariable long id) {
    var view = view(id);
    return Requests.tagged(view.version(), view);
  }

  @GetMapping("/{id}/changes")
  Listing<ChangeView> changes(
      @PathVariable long id,
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String application,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session -> {
          var page =
              changes.list(
                  session,
                  id,
                  Requests.word(ChangeState.class, state, "state"),
                  application,
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          return Requests.listing(
              new Page<>(views.views(session, page.items()), page.next()), view -> view);
        });
  }

  /** Lets a set through. Answers once its inputs are taken in; its changes are then followed. */
  @PostMapping("/{id}/release")
  ResponseEntity<ChangeSetView> release(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody(required = false) ReleaseRequest request,
      Principal principal) {
    var reason = request == null ? null : request.reason();
    releases.release(id, Requests.version(ifMatch), principal.getName(), reason);
    return ResponseEntity.accepted()
        .location(URI.create("/api/v1/change-sets/%d/events".formatted(id)))
        .body(view(id));
  }

  @PostMapping("/{id}/discard")
  ChangeSetView discard(
      @PathVariable long id,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      Principal principal) {
    releases.discard(id, Requests.version(ifMatch), principal.getName());
    return view(id);
  }

  @PostMapping("/{id}/retry")
  ChangeSetView retry(@PathVariable long id, Principal principal) {
    releases.retry(id, principal.getName());
    return view(id);
  }

  /** Shows, as a new set, what taking this one back would do. */
  @PostMapping("/{id}/take-back")
  ResponseEntity<ChangeSetView> takeBack(@PathVariable long id, Principal principal) {
    ChangeSet set = takeBacks.takeBack(id, principal.getName());
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .body(view(set.id()));
  }

  /**
   * Progress as server-sent events, one whenever something has changed, until nothing is under way.
   */
  @GetMapping(path = "/{id}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter events(@PathVariable long id) {
    var first = view(id);
    var emitter = new SseEmitter(LONGEST_STREAM.toMillis());
    Thread.ofVirtual().name("events-" + id).start(() -> follow(emitter, id, first));
    return emitter;
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

  private static boolean isUnderWay(ChangeSetView view) {
    return view.state().equals("releasing")
        || view.counts().stream().anyMatch(count -> UNDER_WAY.contains(count.state()));
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
