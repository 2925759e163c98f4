package ebb.service.people;

import ebb.api.Listing;
import ebb.api.OddityView;
import ebb.api.PersonSummary;
import ebb.core.imports.ManagerLoops;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.person.Oddity;
import ebb.core.person.PersonId;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.people.Oddities;
import ebb.store.people.People;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The standing list of people with whom something may be amiss. */
@RestController
@RequestMapping("/api/v1/people/oddities")
class OddityController {
  private static final int MANAGERS = 500;

  private final Database database;
  private final BusinessClock clock;
  private final Oddities oddities;
  private final People people;
  private final PeopleListController list;

  OddityController(
      Database database,
      BusinessClock clock,
      Oddities oddities,
      People people,
      PeopleListController list) {
    this.database = database;
    this.clock = clock;
    this.oddities = oddities;
    this.people = people;
    this.list = list;
  }

  @Allowed(Act.SEE)
  @GetMapping
  Listing<OddityView> all(Principal principal) {
    var reach = Callers.of(principal).reach();
    return Listing.whole(
        Arrays.stream(Oddity.values()).map(oddity -> view(oddity, reach)).toList());
  }

  private OddityView view(Oddity oddity, Reach reach) {
    return new OddityView(
        oddity.word(),
        oddity.words(),
        oddity.remedy(),
        database.read(s -> count(s, oddity, reach)));
  }

  private long count(StatelessSession session, Oddity oddity, Reach reach) {
    return oddity == Oddity.MANAGER_LOOP
        ? loops(session, reach).size()
        : oddities.count(session, oddity, clock.today(), reach);
  }

  /** Who is of a kind, by their numbers. */
  @Allowed(Act.SEE)
  @GetMapping("/{kind}")
  Listing<PersonSummary> ofKind(
      @PathVariable String kind,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var oddity = Requests.word(Oddity.class, kind, "kind");
    var reach = Callers.of(principal).reach();
    var after = new PersonId(Optional.ofNullable(Requests.cursor(cursor)).orElse(0L));
    var most = Requests.limit(limit);
    return database.read(
        session -> {
          var found = found(session, oddity, reach, after, most + 1);
          var shown = found.subList(0, Math.min(most, found.size()));
          return Listing.page(
              list.summaries(session, shown),
              found.size() > most ? shown.getLast().toString() : null);
        });
  }

  private List<PersonId> found(
      StatelessSession session, Oddity oddity, Reach reach, PersonId after, int limit) {
    return oddity == Oddity.MANAGER_LOOP
        ? loops(session, reach).tailSet(after, false).stream().limit(limit).toList()
        : oddities.list(session, oddity, clock.today(), reach, after, limit);
  }

  /** Only somebody's manager can be in a loop, and there are far fewer of them than people. */
  private TreeSet<PersonId> loops(StatelessSession session, Reach reach) {
    var loops = new TreeSet<PersonId>();
    var after = new PersonId(0);
    List<PersonId> part;
    do {
      part = oddities.list(session, Oddity.MANAGER_LOOP, clock.today(), reach, after, MANAGERS);
      if (!part.isEmpty()) {
        after = part.getLast();
        ManagerLoops.in(
                people.managersOf(session, part.stream().map(PersonId::value).toList()),
                asked -> people.managersOf(session, asked))
            .forEach(id -> loops.add(new PersonId(id)));
      }
    } while (part.size() == MANAGERS);
    return loops;
  }
}
