package ebb.service.timeline;

import ebb.api.Listing;
import ebb.api.TimelineView;
import ebb.api.WhyView;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/people/{id}")
class TimelineController {
  private final Database database;
  private final People people;
  private final Timelines timelines;
  private final Reasons reasons;
  private final Reaches reaches;

  TimelineController(
      Database database, People people, Timelines timelines, Reasons reasons, Reaches reaches) {
    this.database = database;
    this.people = people;
    this.timelines = timelines;
    this.reasons = reasons;
    this.reaches = reaches;
  }

  /** What happened to a person's accounts, and what will happen if nothing is changed. */
  @Allowed(Act.SEE)
  @GetMapping("/timeline")
  TimelineView timeline(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    return database.read(session -> timelines.of(session, get(session, id)));
  }

  /** Why a person has an account in each application, or has none. */
  @Allowed(Act.SEE)
  @GetMapping("/why")
  Listing<WhyView> why(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    return Listing.whole(database.read(session -> reasons.of(session, get(session, id))));
  }

  private StoredPerson get(StatelessSession session, long id) {
    return people
        .get(session, new PersonId(id))
        .orElseThrow(
            () -> Refusal.notFound("person", id, "Find them: ebb people list --name NAME"));
  }
}
