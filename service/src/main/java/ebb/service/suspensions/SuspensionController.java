package ebb.service.suspensions;

import ebb.api.AffectedView;
import ebb.api.ChangeSetView;
import ebb.api.Listing;
import ebb.api.ReturningView;
import ebb.api.SelectionRequest;
import ebb.api.SuspensionEdit;
import ebb.api.SuspensionRequest;
import ebb.api.SuspensionView;
import ebb.core.change.ChangeSet;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.service.changes.ChangeViews;
import ebb.service.reach.Reaches;
import ebb.service.selection.Selection;
import ebb.service.suspensions.SuspensionDesk.Order;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.Page;
import ebb.store.people.Suspensions;
import java.net.URI;
import java.security.Principal;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** People kept out of applications for a time. */
@RestController
@RequestMapping("/api/v1/suspensions")
class SuspensionController {
  private final Database database;
  private final BusinessClock clock;
  private final SuspensionDesk desk;
  private final SuspensionViews views;
  private final Suspensions suspensions;
  private final Selection selection;
  private final ChangeViews sets;
  private final Reaches reaches;

  SuspensionController(
      Database database,
      BusinessClock clock,
      SuspensionDesk desk,
      SuspensionViews views,
      Suspensions suspensions,
      Selection selection,
      ChangeViews sets,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.desk = desk;
    this.views = views;
    this.suspensions = suspensions;
    this.selection = selection;
    this.sets = sets;
    this.reaches = reaches;
  }

  /** Suspensions in force or ahead, in the order in which they were ordered. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<SuspensionView> suspensions(
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var caller = Callers.of(principal);
    return database.read(
        session -> {
          var page =
              suspensions.list(
                  session,
                  clock.today(),
                  caller.reach(),
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          var shown =
              page.items().stream().filter(one -> SuspensionViews.isShown(one, caller)).toList();
          return Requests.listing(
              new Page<>(views.views(session, shown, caller), page.next()), view -> view);
        });
  }

  /** What suspending would do to each; nothing is kept. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/check")
  Listing<AffectedView> checkSuspension(
      @RequestBody SuspensionRequest request, Principal principal) {
    return Listing.whole(
        desk.check(chosen(request, principal), order(request), Callers.of(principal)));
  }

  /** Shows, as a change set, what suspending people changes. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping
  ResponseEntity<ChangeSetView> suspend(
      @RequestBody SuspensionRequest request, Principal principal) {
    return shown(desk.suspend(chosen(request, principal), order(request), Callers.of(principal)));
  }

  /** What the end of all their suspensions would bring each; nothing is kept. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/returns/check")
  Listing<ReturningView> checkReturn(@RequestBody SelectionRequest request, Principal principal) {
    return Listing.whole(desk.checkReturn(returning(request, principal)));
  }

  /** Shows, as a change set, what comes back when all suspensions of people end. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/returns")
  ResponseEntity<ChangeSetView> bringBack(
      @RequestBody SelectionRequest request, Principal principal) {
    return shown(desk.bringBack(returning(request, principal), Callers.of(principal)));
  }

  /** Shows, as a change set, what other dates change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PutMapping("/{id}")
  ResponseEntity<ChangeSetView> moveSuspension(
      @PathVariable long id, @RequestBody SuspensionEdit request, Principal principal) {
    requireShown(principal, desk.get(id));
    return shown(desk.move(id, request.until(), request.review(), Callers.of(principal)));
  }

  private List<PersonId> chosen(SuspensionRequest request, Principal principal) {
    return selection.chosen(request.people(), request.filter(), request.expected(), principal);
  }

  private List<PersonId> returning(SelectionRequest request, Principal principal) {
    var people = selection.chosen(request.people(), null, null, principal);
    reaches.requireAll(principal, people);
    database.read(session -> suspensions.of(session, people)).values().stream()
        .flatMap(List::stream)
        .forEach(one -> requireShown(principal, one));
    return people;
  }

  /** What one may not see one does not end: somebody has a reason not to tell. */
  private void requireShown(Principal principal, Suspension suspension) {
    reaches.require(principal, suspension.person().value());
    if (!SuspensionViews.isShown(suspension, Callers.of(principal))) {
      Callers.of(principal).require(Act.SEE_DISCREET);
    }
  }

  private static Order order(SuspensionRequest request) {
    return new Order(
        Requests.word(
            Suspension.Reason.class, Requests.required(request.reason(), "reason"), "reason"),
        Requests.blankAsNull(request.note()),
        request.from(),
        request.until(),
        request.review(),
        Set.copyOf(Objects.requireNonNullElse(request.applications(), Set.<String>of())),
        request.discreet(),
        request.notices());
  }

  private ResponseEntity<ChangeSetView> shown(ChangeSet set) {
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .eTag("\"" + set.version() + "\"")
        .body(database.read(session -> sets.view(session, set)));
  }
}
