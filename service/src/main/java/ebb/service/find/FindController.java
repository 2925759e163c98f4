package ebb.service.find;

import ebb.api.FoundView;
import ebb.api.Listing;
import ebb.core.name.Folding;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.core.person.Attributes;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.changes.ChangeSets;
import ebb.store.people.PeopleLists;
import ebb.store.people.StoredPerson;
import ebb.store.people.Suspensions;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/find")
class FindController {
  private static final int PEOPLE = 8;
  private static final int OTHERS = 4;
  private static final int UNITS = 500;
  private static final int LATEST_SETS = 200;

  private final Database database;
  private final BusinessClock clock;
  private final PeopleLists lists;
  private final Suspensions suspensions;
  private final Applications applications;
  private final ChangeSets changeSets;

  FindController(
      Database database,
      BusinessClock clock,
      PeopleLists lists,
      Suspensions suspensions,
      Applications applications,
      ChangeSets changeSets) {
    this.clock = clock;
    this.suspensions = suspensions;
    this.database = database;
    this.lists = lists;
    this.applications = applications;
    this.changeSets = changeSets;
  }

  /**
   * People by name, login or staff number; units, applications and change sets by name or number.
   *
   * @param text spelling, accents and script make no odds
   */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<FoundView> find(@RequestParam String text, Principal principal) {
    var folded = Folding.toAscii(text);
    if (folded.isEmpty()) {
      return Listing.whole(List.of());
    }
    var caller = Callers.of(principal);
    return Listing.whole(
        database.read(
            session -> {
              var found = new ArrayList<FoundView>();
              people(session, folded, text.strip(), caller).forEach(found::add);
              units(session, folded, caller).limit(OTHERS).forEach(found::add);
              applications(session, folded, caller).limit(OTHERS).forEach(found::add);
              sets(session, folded, caller).limit(OTHERS).forEach(found::add);
              return found;
            }));
  }

  private Stream<FoundView> people(
      StatelessSession session, String folded, String text, Caller caller) {
    var found = lists.find(session, folded, text, caller.reach(), PEOPLE);
    var suspended = suspensions.of(session, found.stream().map(one -> one.person().id()).toList());
    return found.stream()
        .map(one -> person(one, suspended.getOrDefault(one.person().id(), List.of())));
  }

  private FoundView person(StoredPerson stored, List<Suspension> suspensions) {
    var stage = stored.person().stage(clock.instant(), clock.zone());
    var isSuspended =
        suspensions.stream()
            .anyMatch(one -> one.applications().isEmpty() && one.isInForceOn(clock.today()));
    var isOff = isSuspended || stage == Stage.AWAY || stage == Stage.DEPARTED;
    var detail =
        Stream.of(
                stored.person().get(Attributes.TITLE).orElse(null),
                stored.person().get(Attributes.DEPARTMENT).orElse(null),
                stored.login(),
                isSuspended ? "suspended" : isOff ? stage.word() : null)
            .filter(Objects::nonNull)
            .collect(Collectors.joining(", "));
    return new FoundView(
        "person", stored.person().id().toString(), stored.displayName(), detail, isOff);
  }

  private Stream<FoundView> units(StatelessSession session, String folded, Caller caller) {
    return lists.valuesOf(session, Attributes.DEPARTMENT, UNITS).stream()
        .filter(unit -> Folding.toAscii(unit).contains(folded))
        .filter(unit -> caller.reach().units().isEmpty() || caller.reach().units().contains(unit))
        .map(unit -> new FoundView("unit", unit, unit, "unit", false));
  }

  private Stream<FoundView> applications(StatelessSession session, String folded, Caller caller) {
    return caller.may(Act.SEE_SETTINGS)
        ? applications.list(session).stream()
            .filter(one -> Folding.toAscii(one.name()).contains(folded))
            .map(one -> new FoundView("application", one.name(), one.name(), "application", false))
        : Stream.empty();
  }

  private Stream<FoundView> sets(StatelessSession session, String folded, Caller caller) {
    return changeSets
        .list(session, null, caller.reach(), caller.name(), null, LATEST_SETS)
        .items()
        .stream()
        .filter(
            set ->
                Long.toString(set.id()).equals(folded)
                    || Folding.toAscii(set.title()).contains(folded))
        .map(
            set ->
                new FoundView(
                    "change-set",
                    Long.toString(set.id()),
                    set.title(),
                    "change set %d, %s".formatted(set.id(), set.state().word()),
                    false));
  }
}
