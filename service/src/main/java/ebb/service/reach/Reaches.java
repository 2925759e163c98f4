package ebb.service.reach;

import ebb.core.operator.Caller;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.departures.Departures;
import ebb.store.people.People;
import ebb.store.rules.Rules;
import java.security.Principal;
import java.util.Collection;
import java.util.List;
import org.springframework.stereotype.Component;

/** Keeps operators to the people they answer for. Lists are narrowed in their own queries. */
@Component
public final class Reaches {
  private final Database database;
  private final People people;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final Departures departures;
  private final Rules rules;

  Reaches(
      Database database,
      People people,
      ChangeSets changeSets,
      Changes changes,
      Departures departures,
      Rules rules) {
    this.changes = changes;
    this.database = database;
    this.people = people;
    this.changeSets = changeSets;
    this.departures = departures;
    this.rules = rules;
  }

  /** A person nobody knows is beyond nobody's reach: that there is none is said elsewhere. */
  public void require(Principal principal, long person) {
    requireAll(principal, List.of(new PersonId(person)));
  }

  public void requireAll(Principal principal, Collection<PersonId> all) {
    var caller = Callers.of(principal);
    if (!caller.reach().isEverybody() && !all.isEmpty()) {
      database
          .read(session -> people.getAll(session, all))
          .values()
          // What they are called is not told to whom they are beyond.
          .forEach(stored -> require(caller, stored.person(), "Person " + stored.person().id()));
    }
  }

  /** For somebody who is in no list yet, and for values a person would have. */
  public void require(Principal principal, Person person) {
    require(Callers.of(principal), person, person.displayName());
  }

  private static void require(Caller caller, Person person, String name) {
    if (!caller.reach().covers(person)) {
      throw Caller.beyond(caller.name(), caller.reach(), name);
    }
  }

  /** Looking at a change set takes reaching somebody it concerns, or having made it. */
  public void requireSomeOfSet(Principal principal, long id) {
    var caller = Callers.of(principal);
    if (caller.reach().isEverybody()) {
      return;
    }
    var isSeen =
        database.read(
            session ->
                changeSets
                    .get(session, id)
                    .map(
                        set ->
                            set.createdBy().equals(caller.name())
                                || changes.countPeople(session, id, caller.reach()) > 0)
                    .orElse(true));
    if (!isSeen) {
      throw Caller.beyond(caller.name(), caller.reach(), "Change set %d".formatted(id));
    }
  }

  /** Acting on a change set takes reaching everybody it concerns. */
  public void requireSet(Principal principal, long id) {
    var caller = Callers.of(principal);
    if (caller.reach().isEverybody()) {
      return;
    }
    if (!database.read(session -> rules.edits(session, id)).isEmpty()) {
      throw Caller.beyond(
          caller.name(),
          caller.reach(),
          "Change set %d, which edits a rule for everybody,".formatted(id));
    }
    var beyond =
        database.read(
            session ->
                changeSets
                    .get(session, id)
                    .map(set -> changeSets.countBeyond(session, set, caller.reach(), caller.name()))
                    .orElse(0L));
    if (beyond > 0) {
      throw Caller.beyond(
          caller.name(), caller.reach(), "Change set %d, with %d people,".formatted(id, beyond));
    }
  }

  public void requireDeparture(Principal principal, long id) {
    database
        .read(session -> departures.get(session, id))
        .ifPresent(departure -> require(principal, departure.person().value()));
  }

  /**
   * Gates are not waived by those whom they concern.
   *
   * @throws Refusal if the departing person or the recipient is the operator's own self
   */
  public void requireNotOwn(Principal principal, long departure) {
    var own = Callers.of(principal).person();
    database
        .read(session -> departures.get(session, departure))
        .filter(one -> one.person().equals(own) || (own != null && own.equals(one.recipient())))
        .ifPresent(
            _ -> {
              throw new Refusal(
                  Refusal.Kind.FORBIDDEN,
                  new Problem(
                      "own-case",
                      "This is a case of %s's own.".formatted(principal.getName()),
                      "Nobody waives a gate of a departure that concerns them.",
                      "Ask another operator.",
                      null));
            });
  }
}
