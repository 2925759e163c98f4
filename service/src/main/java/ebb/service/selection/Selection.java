package ebb.service.selection;

import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.PeopleCursor;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Finds the people an act is about. */
@Component
public final class Selection {
  /** A season ends for hundreds; more than this is a rule's matter. */
  public static final int MOST = 10_000;

  private static final int AT_ONCE = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final People people;
  private final PeopleLists lists;
  private final OwnAttributes attributes;

  Selection(
      Database database,
      BusinessClock clock,
      People people,
      PeopleLists lists,
      OwnAttributes attributes) {
    this.database = database;
    this.clock = clock;
    this.people = people;
    this.lists = lists;
    this.attributes = attributes;
  }

  /**
   * @param ids by number; null or empty where a filter finds them
   * @param filter null for none; finds nobody beyond the operator's reach
   * @param expected how many it is to find; null to be told how many that is
   * @return each once, at least one
   * @throws Refusal if it is nobody, too many, or another number than expected
   */
  public List<PersonId> chosen(List<Long> ids, String filter, Long expected, Principal principal) {
    var chosen =
        filter == null || filter.isBlank()
            ? byNumber(ids == null ? List.of() : ids)
            : found(filter, expected, principal);
    if (chosen.isEmpty()) {
      throw Refusal.invalid(
          new Problem(
              "nobody-chosen",
              "Nobody was chosen.",
              "There is nobody to do it to.",
              "Choose people by their numbers, or by a filter that finds some.",
              Where.field("people")));
    }
    return chosen;
  }

  private List<PersonId> byNumber(List<Long> ids) {
    var chosen = ids.stream().filter(Objects::nonNull).distinct().map(PersonId::new).toList();
    if (chosen.size() > MOST) {
      throw tooMany(chosen.size() + " people were chosen");
    }
    var known = database.read(session -> people.getAll(session, chosen));
    chosen.stream()
        .filter(id -> !known.containsKey(id))
        .findFirst()
        .ifPresent(
            id -> {
              throw Refusal.notFound("person", id, "Find them: ebb people list --name NAME");
            });
    return chosen;
  }

  private List<PersonId> found(String filter, Long expected, Principal principal) {
    var parsed =
        Filters.parse(filter, clock.today(), database.read(attributes::catalogue))
            .and(PeopleFilter.within(Callers.of(principal).reach()));
    var found = new ArrayList<PersonId>();
    PeopleCursor cursor = null;
    do {
      var from = cursor;
      var page =
          database.read(session -> lists.list(session, parsed, PeopleOrder.NAME, from, AT_ONCE));
      page.items().forEach(stored -> found.add(stored.person().id()));
      if (found.size() > MOST) {
        throw tooMany("The filter finds more than " + MOST + " people");
      }
      cursor =
          page.next() == null ? null : PeopleCursor.of(page.next(), PeopleOrder.NAME).orElseThrow();
    } while (cursor != null);
    if (expected == null || expected != found.size()) {
      throw otherwise(filter, found.size(), expected);
    }
    return found;
  }

  private static Refusal tooMany(String what) {
    return Refusal.invalid(
        new Problem(
            "selection-size",
            what + ".",
            "At most %,d can be worked on at once.".formatted(MOST),
            "Narrow the filter, or let a rule say it.",
            Where.field("people")));
  }

  private static Refusal otherwise(String filter, int found, Long expected) {
    return Refusal.conflict(
        new Problem(
            "found-otherwise",
            expected == null
                ? "The filter %s finds %,d people; how many were expected was not said."
                    .formatted(filter, found)
                : "The filter %s finds %,d people, and %,d were expected."
                    .formatted(filter, found, expected),
            "An act joined to a filter that finds others than meant does harm to many.",
            "Look at whom it finds; if they are right, expect %d.".formatted(found),
            Where.field("expected")));
  }
}
