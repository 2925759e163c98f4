package ebb.service.now;

import ebb.api.ErrandView;
import ebb.api.NowView;
import ebb.core.change.ChangeState;
import ebb.core.notice.Notice;
import ebb.core.operator.Act;
import ebb.service.errand.Errands;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.departures.Departures;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import java.security.Principal;
import java.time.Instant;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/now")
class NowController {
  private final Database database;
  private final BusinessClock clock;
  private final Changes changes;
  private final ChangeSets changeSets;
  private final Notices notices;
  private final Departures departures;
  private final People people;
  private final List<Errands> errands;

  NowController(
      Database database,
      BusinessClock clock,
      Changes changes,
      ChangeSets changeSets,
      Notices notices,
      Departures departures,
      People people,
      List<Errands> errands) {
    this.errands = errands;
    this.database = database;
    this.clock = clock;
    this.changes = changes;
    this.changeSets = changeSets;
    this.notices = notices;
    this.departures = departures;
    this.people = people;
  }

  @Allowed(Act.SEE)
  @GetMapping
  NowView now(Principal principal) {
    var caller = Callers.of(principal);
    return database.read(
        session ->
            new NowView(
                changes.count(
                    session,
                    EnumSet.of(ChangeState.QUEUED, ChangeState.CLAIMED, ChangeState.UNSURE)),
                changes.count(session, EnumSet.of(ChangeState.REFUSED, ChangeState.BLOCKED)),
                changeSets.countShown(session, false),
                changeSets.countShown(session, true),
                notices.count(session, Notice.State.WAITING),
                notices.count(session, Notice.State.UNDELIVERABLE),
                departures.countRunning(session),
                departures.countToLookAt(session, Instant.now()),
                people.countWakingBy(session, clock.instant()),
                errands.stream()
                    .flatMap(part -> part.of(session, caller).stream())
                    .sorted(
                        Comparator.comparingInt(ErrandView::urgency)
                            .thenComparing(
                                ErrandView::since, Comparator.nullsLast(Comparator.reverseOrder())))
                    .toList()));
  }
}
