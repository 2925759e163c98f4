package ebb.service.emergency;

import ebb.api.ChangeSetView;
import ebb.api.EmergencyStopView;
import ebb.api.Listing;
import ebb.api.ReasonRequest;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.changes.ChangeViews;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.people.EmergencyStops;
import java.security.Principal;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Emergency stops. */
@RestController
@RequestMapping("/api/v1")
class EmergencyController {
  private static final int MOST = 200;

  private final Database database;
  private final EmergencyDesk desk;
  private final EmergencyStops stops;
  private final EmergencyViews views;
  private final ChangeViews sets;
  private final Reaches reaches;

  EmergencyController(
      Database database,
      EmergencyDesk desk,
      EmergencyStops stops,
      EmergencyViews views,
      ChangeViews sets,
      Reaches reaches) {
    this.database = database;
    this.desk = desk;
    this.stops = stops;
    this.views = views;
    this.sets = sets;
    this.reaches = reaches;
  }

  /** Stops in force; the first 200 people. */
  @Allowed(Act.SEE)
  @GetMapping("/emergency-stops")
  Listing<EmergencyStopView> emergencyStops(Principal principal) {
    var reach = Callers.of(principal).reach();
    return database.read(
        session ->
            Listing.whole(
                stops.list(session, reach, MOST).stream()
                    .map(stop -> views.view(session, stop))
                    .toList()));
  }

  @Allowed(Act.SEE)
  @GetMapping("/people/{id}/emergency-stop")
  EmergencyStopView emergencyStop(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    return database.read(
        session ->
            views
                .of(session, new PersonId(id))
                .orElseThrow(
                    () ->
                        Refusal.notFound(
                            "emergency stop of person", id, "See: ebb emergency list")));
  }

  /**
   * Shuts a person out of every application at once: nothing waits for a release, a guard or a
   * pause. In force when this answers; called again, all is ordered once more.
   */
  @Allowed(Act.EMERGENCY_STOP)
  @PostMapping("/people/{id}/emergency-stop")
  @ResponseStatus(HttpStatus.CREATED)
  EmergencyStopView emergencyStop(
      @PathVariable long id, @RequestBody ReasonRequest request, Principal principal) {
    reaches.require(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    var stop = desk.stop(new PersonId(id), reason, principal.getName());
    return database.read(session -> views.view(session, stop));
  }

  /** Lifts a stop, and shows, as a change set, what comes back; 204 if nothing does. */
  @Allowed(Act.LIFT_EMERGENCY_STOP)
  @PostMapping("/people/{id}/emergency-stop/lift")
  ResponseEntity<ChangeSetView> liftEmergencyStop(
      @PathVariable long id, @RequestBody ReasonRequest request, Principal principal) {
    reaches.require(principal, id);
    var reason = Requests.required(request.reason(), "reason");
    return desk.lift(new PersonId(id), reason, principal.getName())
        .map(set -> ResponseEntity.ok(database.read(session -> sets.view(session, set))))
        .orElseGet(() -> ResponseEntity.noContent().build());
  }
}
