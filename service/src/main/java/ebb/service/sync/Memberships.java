package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Groups;
import ebb.store.applications.LeftAlone;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Grants;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Decides about groups that were found in an application, and that no rule gives. */
@Component
final class Memberships {
  private static final int PART = 500;

  private final Database database;
  private final Accounts accounts;
  private final Groups groups;
  private final Grants grants;
  private final Proposals proposals;
  private final Journal journal;
  private final BusinessClock clock;

  Memberships(
      Database database,
      Accounts accounts,
      Groups groups,
      Grants grants,
      Proposals proposals,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.accounts = accounts;
    this.groups = groups;
    this.grants = grants;
    this.proposals = proposals;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * What keeping members comes to.
   *
   * @param set empty if everyone was given the group before
   * @param ofNobody members whose accounts are nobody's, and to whom nothing is given
   */
  record Kept(Optional<ChangeSet> set, long members, long ofNobody) {}

  /**
   * Shows what follows if all members of a group are given it, each for having been found there.
   */
  Kept keep(
      Application application, String group, String by, Consumer<Collection<PersonId>> allowed) {
    var name = application.name();
    var numbers = database.read(session -> groups.accountsIn(session, name, group));
    var people = new TreeSet<PersonId>();
    var ofNobody = 0;
    for (int from = 0; from < numbers.size(); from += PART) {
      var part = numbers.subList(from, Math.min(from + PART, numbers.size()));
      for (var account : database.read(session -> accounts.getAll(session, part)).values()) {
        if (account.person() == null) {
          ofNobody++;
        } else if (!isGiven(account, group)) {
          people.add(account.person());
        }
      }
    }
    allowed.accept(people);
    if (people.isEmpty()) {
      return new Kept(Optional.empty(), 0, ofNobody);
    }
    var set =
        proposals.propose(
            Cause.HAND,
            "keep %d members of %s in %s".formatted(people.size(), group, name),
            by,
            null,
            given(people, name, group));
    return new Kept(Optional.of(set), people.size(), ofNobody);
  }

  private static boolean isGiven(Account account, String group) {
    return account.grounds().containsKey(group);
  }

  private List<Input> given(Collection<PersonId> people, String application, String group) {
    var inputs = new ArrayList<Input>();
    for (var person : people) {
      var grant =
          new Grant(
              database.write(grants::number),
              person,
              application,
              group,
              "found there",
              clock.today(),
              null,
              "found-in-" + application);
      inputs.add(new Input.Give(person, grant));
    }
    return inputs;
  }

  /**
   * @param why null to take it up again
   * @throws Refusal if there is no such group
   */
  void leaveAlone(Application application, String group, String why, String by) {
    database.writeAll(
        session -> {
          var now = clock.instant();
          var left = why == null || why.isBlank() ? null : new LeftAlone(why, by, now);
          if (!groups.leaveAlone(session, application.name(), group, left)) {
            throw new Refusal(Refusal.Kind.NOT_FOUND, unknown(application, group));
          }
          journal.write(
              session,
              now,
              Deed.of(
                      by,
                      "group %s in %s %s"
                          .formatted(
                              group,
                              application.name(),
                              left == null ? "means something here" : "means nothing here"),
                      null)
                  .because(why));
        });
  }

  private static Problem unknown(Application application, String group) {
    return new Problem(
        "group-unknown",
        "No group %s was seen in %s.".formatted(group, application.name()),
        "Groups are known from the last sync.",
        "See: ebb applications groups " + application.name(),
        null);
  }
}
