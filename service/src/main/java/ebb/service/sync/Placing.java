package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.change.Finding;
import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Likely;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Looks whose the accounts of nobody may be. Those that their application's rules name are linked;
 * of the others is kept whom they are like.
 */
@Component
final class Placing {
  private static final int PART = 500;

  private final Database database;
  private final Accounts accounts;
  private final Applications applications;
  private final AccountMatching matching;

  Placing(
      Database database, Accounts accounts, Applications applications, AccountMatching matching) {
    this.database = database;
    this.accounts = accounts;
    this.applications = applications;
    this.matching = matching;
  }

  /**
   * Looks at the next that were not looked at yet, so many that nobody waits.
   *
   * @return whose accounts were found; null if none is left to be looked at
   */
  Set<PersonId> lookAtNew(Application application) {
    // Hardly ever is there any, and only a write costs the disk something.
    if (!database.read(session -> isAnyNew(session, application))) {
      return null;
    }
    return database.write(
        session -> {
          var part = unlooked(session, application, PART);
          return part.isEmpty() ? null : look(session, application, part);
        });
  }

  /** Whether any account of an application was not looked at yet. */
  boolean isAnyNew(StatelessSession session, Application application) {
    return !unlooked(session, application, 1).isEmpty();
  }

  private List<Account> unlooked(StatelessSession session, Application application, int most) {
    return accounts.next(session, application.name(), Finding.UNLOOKED, 0, most);
  }

  /** Looks at all again, for whom people who came meanwhile may be. */
  Set<PersonId> lookAtAll(Application application) {
    var found = new HashSet<PersonId>();
    for (var kind : List.of(Finding.DUPLICATE, Finding.DOUBTFUL, Finding.UNMATCHED)) {
      long last = 0;
      List<Account> part;
      do {
        var after = last;
        part =
            database.read(session -> accounts.next(session, application.name(), kind, after, PART));
        if (!part.isEmpty()) {
          var some = part;
          found.addAll(database.write(session -> look(session, application, some)));
          last = part.getLast().id();
        }
      } while (!part.isEmpty());
    }
    return found;
  }

  private Set<PersonId> look(StatelessSession session, Application application, List<Account> all) {
    var owners =
        matching.owners(
            session,
            application.name(),
            application.settings(),
            all.stream().map(Account::observed).toList());
    var left = all.stream().filter(one -> !owners.containsKey(one.observed().id())).toList();
    var candidates = matching.candidates(session, left, application.settings());
    var changed = new ArrayList<Account>();
    for (var account : all) {
      var owner = owners.get(account.observed().id());
      var next =
          owner != null
              ? account.of(owner)
              : account.likely(
                  candidates.getOrDefault(account.id(), List.of()).stream()
                      .map(Placing::likely)
                      .toList());
      if (!next.equals(account)) {
        changed.add(next);
      }
    }
    if (!changed.isEmpty()) {
      accounts.place(session, changed);
      applications.looked(session, application.name());
    }
    return new HashSet<>(owners.values());
  }

  /** An account of nobody, with whom it is like. */
  Account placed(StatelessSession session, Map<String, String> settings, Account account) {
    return account.likely(
        matching.candidates(session, account, settings).stream().map(Placing::likely).toList());
  }

  private static Likely likely(AccountMatching.Candidate candidate) {
    return new Likely(
        candidate.person().person().id(), candidate.why(), candidate.account() != null);
  }
}
