package ebb.service.sync;

import ebb.core.application.Details;
import ebb.core.application.Unreachable;
import ebb.core.change.ChangeSet;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.evaluation.Evaluator;
import ebb.service.people.HandEdits;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.LeftAlone;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import ebb.store.rules.Rules;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Decides about single accounts. None of it writes to an application. */
@Component
final class AccountDesk {
  private final Database database;
  private final Connections connections;
  private final Accounts accounts;
  private final Applications applications;
  private final Rules rules;
  private final People people;
  private final Evaluator evaluator;
  private final AccountMatching matching;
  private final Placing placing;
  private final Syncs syncs;
  private final HandEdits edits;
  private final Journal journal;
  private final BusinessClock clock;

  AccountDesk(
      Database database,
      Connections connections,
      Accounts accounts,
      Applications applications,
      Rules rules,
      People people,
      Evaluator evaluator,
      AccountMatching matching,
      Placing placing,
      Syncs syncs,
      HandEdits edits,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.connections = connections;
    this.accounts = accounts;
    this.applications = applications;
    this.rules = rules;
    this.people = people;
    this.evaluator = evaluator;
    this.matching = matching;
    this.placing = placing;
    this.syncs = syncs;
    this.edits = edits;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * What became of an account.
   *
   * @param set what drifted in its application now
   */
  record Linked(Account account, Optional<ChangeSet> set) {}

  Account get(long id) {
    return database
        .read(session -> accounts.get(session, id))
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "account", Long.toString(id), "See: ebb applications accounts NAME"));
  }

  Details details(Account account) {
    try {
      return connections
          .to(account.application())
          .details(account.observed().id())
          .orElseThrow(() -> new Refusal(Refusal.Kind.NOT_FOUND, gone(account)));
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
  }

  List<AccountMatching.Candidate> candidates(Account account) {
    return database.read(
        session -> matching.candidates(session, account, settings(session, account)));
  }

  private Map<String, String> settings(StatelessSession session, Account account) {
    return applications.get(session, account.application()).orElseThrow().settings();
  }

  Linked link(Account account, PersonId person, String by) {
    return change(
        account.id(),
        person,
        by,
        "linked %s in %s",
        null,
        (session, now) -> {
          if (now.person() != null) {
            throw new Refusal(Refusal.Kind.CONFLICT, taken(now));
          }
          if (people.get(session, person).isEmpty()) {
            throw Refusal.notFound("person", person.toString(), "See: ebb people list");
          }
          people.lock(session, List.of(person));
          accounts
              .existing(session, person, now.application())
              .ifPresent(
                  other -> {
                    throw new Refusal(Refusal.Kind.CONFLICT, hasOne(other));
                  });
          accounts.forgetApart(session, now, person);
          return now.of(person).leftAlone(null);
        });
  }

  Linked unlink(Account account, String by) {
    return change(
        account.id(),
        account.person(),
        by,
        "unlinked %s in %s",
        null,
        (session, now) -> {
          if (now.person() == null) {
            throw new Refusal(Refusal.Kind.CONFLICT, nobodys(now));
          }
          accounts.keepApart(session, now, now.person());
          return placing.placed(session, settings(session, now), now.of(null));
        });
  }

  Linked leaveAlone(Account account, String why, String by) {
    return change(
        account.id(),
        account.person(),
        by,
        "left %s in %s as it is",
        why,
        (_, now) -> now.leftAlone(new LeftAlone(why, by, clock.instant())));
  }

  Linked keep(Account account, String by) {
    return change(
        account.id(),
        account.person(),
        by,
        "keeps %s in %s as it should be",
        null,
        (_, now) -> now.leftAlone(null));
  }

  private interface Decision {
    Account on(StatelessSession session, Account now);
  }

  private Linked change(
      long id, PersonId person, String by, String act, String why, Decision decision) {
    var account =
        database.write(
            session -> {
              var next = decision.on(session, accounts.get(session, id).orElseThrow());
              accounts.put(session, next);
              var text = act.formatted(AccountViews.name(next), next.application());
              journal.write(session, clock.instant(), Deed.of(by, text, person).because(why));
              return next;
            });
    return new Linked(
        account,
        person == null
            ? Optional.empty()
            : syncs.compare(account.application(), Set.of(person), by));
  }

  /**
   * Makes values of an account the person's, by hand.
   *
   * @param attributes as rules call them
   */
  ChangeSet take(Account account, Set<String> attributes, String by, Consumer<Person> allowed) {
    if (account.person() == null) {
      throw new Refusal(Refusal.Kind.CONFLICT, nobodys(account));
    }
    return edits.edit(account.person(), ofPerson(account, attributes), null, null, by, allowed);
  }

  /**
   * Values of an account as the attributes of its person.
   *
   * @param attributes as rules call them
   * @throws Refusal if no rule fills one with an attribute just as it is
   */
  Map<String, String> ofPerson(Account account, Set<String> attributes) {
    var rules =
        database.read(this.rules::inForce).stream()
            .filter(rule -> rule.application().equals(account.application()))
            .toList();
    var taken = new TreeMap<String, String>();
    var problems = new ArrayList<Problem>();
    for (var attribute : attributes) {
      rules.stream()
          .flatMap(rule -> Optional.ofNullable(rule.values().get(attribute)).stream())
          .flatMap(mapping -> evaluator.expressions().attributeOf(mapping).stream())
          .findFirst()
          .ifPresentOrElse(
              said ->
                  taken.put(
                      said, account.observed().texts(attribute).stream().findFirst().orElse("")),
              () -> problems.add(noWayBack(attribute, account.application())));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return taken;
  }

  private static Problem gone(Account account) {
    return new Problem(
        "account-gone",
        "%s has no account %s any more."
            .formatted(account.application(), AccountViews.name(account)),
        "It was there when Ebb last looked.",
        "Sync it: ebb applications sync " + account.application(),
        null);
  }

  private static Problem taken(Account account) {
    return new Problem(
        "account-linked",
        "%s belongs to person %s already.".formatted(AccountViews.name(account), account.person()),
        "An account is one person's.",
        "Take it from them first: ebb accounts unlink %d".formatted(account.id()),
        null);
  }

  private static Problem hasOne(Account other) {
    return new Problem(
        "person-has-account",
        "Person %s has the account %s in %s already."
            .formatted(other.person(), AccountViews.name(other), other.application()),
        "Of two accounts Ebb would not know which one to keep as it should be.",
        "Unlink that one first (ebb accounts unlink %d), or leave this one alone."
            .formatted(other.id()),
        null);
  }

  private static Problem nobodys(Account account) {
    return new Problem(
        "account-unmatched",
        "%s is nobody's.".formatted(AccountViews.name(account)),
        "No person is known to whom it belongs.",
        "Say whose it is: ebb accounts link %d PERSON".formatted(account.id()),
        null);
  }

  private static Problem noWayBack(String attribute, String application) {
    return new Problem(
        "value-not-taken",
        "%s cannot be taken from %s.".formatted(attribute, application),
        "No rule fills it with an attribute of people just as it is.",
        "Edit the person, or the rule.",
        null);
  }
}
