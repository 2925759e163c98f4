package ebb.service.applications;

import ebb.api.SyncView;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Needs.Draft;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.connections.Connections;
import ebb.service.evaluation.Everyone;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Reads all of an application, and finds where it is not what it should be. */
@Component
final class Syncs {
  private static final Pattern ORIGIN = Pattern.compile("ebb-(\\d{1,18})");
  private static final int ACCOUNTS_AT_ONCE = 500;

  private final Database database;
  private final Connections connections;
  private final Accounts accounts;
  private final Applications applications;
  private final Changes changes;
  private final People people;
  private final Proposals proposals;
  private final Everyone everyone;
  private final Journal journal;
  private final BusinessClock clock;

  Syncs(
      Database database,
      Connections connections,
      Accounts accounts,
      Applications applications,
      Changes changes,
      People people,
      Proposals proposals,
      Everyone everyone,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.connections = connections;
    this.accounts = accounts;
    this.applications = applications;
    this.changes = changes;
    this.people = people;
    this.proposals = proposals;
    this.everyone = everyone;
    this.journal = journal;
    this.clock = clock;
  }

  SyncView sync(String application, String by) {
    var problem = connections.check(application);
    if (problem != null) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, problem);
    }
    var seen = read(application);
    var missing = markMissing(application, seen);
    var set =
        proposals.differences(
            Cause.SYNC,
            "drift in " + application,
            by,
            everyone,
            draft -> isDrift(draft, application));
    return report(application, by, seen.size(), missing, set);
  }

  /** What the application itself caused; what follows from inputs has its own set. */
  private static boolean isDrift(Draft draft, String application) {
    return draft.application().equals(application) && draft.step().kind() != ChangeKind.CLOSE;
  }

  private Set<String> read(String application) {
    var seen = new HashSet<String>();
    var part = new ArrayList<ObservedAccount>();
    try {
      connections
          .to(application)
          .readAll(
              account -> {
                seen.add(account.id());
                part.add(account);
                if (part.size() == ACCOUNTS_AT_ONCE) {
                  keep(application, part);
                  part.clear();
                }
              });
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
    keep(application, part);
    return seen;
  }

  private void keep(String application, List<ObservedAccount> part) {
    if (!part.isEmpty()) {
      var now = clock.instant();
      database.writeAll(session -> keep(session, application, part, now));
    }
  }

  /** Accounts that look as they did are not written. */
  private void keep(
      StatelessSession session, String application, List<ObservedAccount> part, Instant now) {
    var known =
        accounts.byRemoteIds(session, application, part.stream().map(ObservedAccount::id).toList());
    for (var observed : part) {
      var account = known.get(observed.id());
      if (account == null) {
        accounts.put(session, found(session, application, observed, now));
      } else if (!isDeleted(account, observed)
          && (!account.observed().equals(observed) || !account.level().exists())) {
        accounts.put(session, account.seen(level(account, observed), observed, now));
      }
    }
  }

  /** Where what is deleted stays, switched off, it is not there again because it is shown. */
  private boolean isDeleted(Account account, ObservedAccount observed) {
    return !account.level().exists()
        && !observed.usable()
        && connections.capabilities(account.application()).has(Part.RESTORE);
  }

  private Account found(
      StatelessSession session, String application, ObservedAccount observed, Instant now) {
    var owner =
        Optional.ofNullable(observed.externalId())
            .map(ORIGIN::matcher)
            .filter(matcher -> matcher.matches())
            .map(matcher -> new PersonId(Long.parseLong(matcher.group(1))))
            .filter(id -> people.get(session, id).isPresent())
            .filter(id -> accounts.existing(session, id, application).isEmpty());
    return new Account(
        accounts.number(session),
        application,
        owner.orElse(null),
        observed.usable() ? Level.ACTIVE : Level.SUSPENDED,
        observed,
        new TreeMap<>(),
        false,
        now);
  }

  private static Level level(Account account, ObservedAccount observed) {
    if (observed.usable()) {
      return Level.ACTIVE;
    }
    return account.level() == Level.PREPARED ? Level.PREPARED : Level.SUSPENDED;
  }

  /** Accounts that are known and were not among those read are gone. */
  private long markMissing(String application, Set<String> seen) {
    long missing = 0;
    Long after = null;
    do {
      var from = after;
      var page =
          database.read(
              session ->
                  accounts.list(
                      session, application, false, Reach.EVERYBODY, from, ACCOUNTS_AT_ONCE));
      var gone =
          page.items().stream()
              .filter(account -> account.level().exists())
              .filter(account -> !seen.contains(account.observed().id()))
              .toList();
      if (!gone.isEmpty()) {
        var now = clock.instant();
        database.writeAll(
            session ->
                gone.forEach(
                    account ->
                        accounts.put(session, account.seen(Level.GONE, account.observed(), now))));
      }
      missing += gone.size();
      after = page.next() == null ? null : Long.valueOf(page.next());
    } while (after != null);
    return missing;
  }

  private SyncView report(
      String application, String by, long read, long missing, Optional<ChangeSet> set) {
    return database.write(
        session -> {
          applications.synced(session, application, clock.instant());
          long unmatched = accounts.countUnmatched(session, application);
          long drifted = set.map(one -> changes.countAccounts(session, one.id())).orElse(0L);
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  by,
                  "synced %s: %d read, %d drifted, %d missing, %d unmatched"
                      .formatted(application, read, drifted, missing, unmatched)));
          return new SyncView(
              application,
              read,
              Math.max(0, read - unmatched - drifted),
              drifted,
              missing,
              unmatched,
              set.map(ChangeSet::id).orElse(null));
        });
  }
}
