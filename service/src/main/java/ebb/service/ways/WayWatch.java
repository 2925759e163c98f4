package ebb.service.ways;

import ebb.core.application.Capabilities;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn.Way;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.execution.Result;
import ebb.service.changes.Aftermath;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Asks applications what is still open to an account once it is off, and again each day: claim,
 * call, record.
 */
@Component
final class WayWatch implements Aftermath, RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(WayWatch.class);
  private static final Set<ChangeKind> ASK =
      EnumSet.of(ChangeKind.SUSPEND, ChangeKind.CLOSE, ChangeKind.SHUT);
  private static final Set<ChangeKind> FORGET =
      EnumSet.of(ChangeKind.RETURN, ChangeKind.OPEN, ChangeKind.DELETE);
  private static final int AT_ONCE = 20;
  private static final Duration LEASE = Duration.ofMinutes(5);
  private static final Duration AFTER_A_FAILURE = Duration.ofMinutes(1);

  /** A token may be made meanwhile by whoever still has another way in. */
  private static final Duration AGAIN = Duration.ofDays(1);

  /** Somebody is about to give away what another answers for. */
  private static final Duration WHILE_OTHERS_ARE_OPEN = Duration.ofMinutes(10);

  private final Database database;
  private final WaysFound found;
  private final Accounts accounts;
  private final OtherAccounts others;
  private final Connections connections;
  private final Journal journal;
  private final BusinessClock clock;

  WayWatch(
      Database database,
      WaysFound found,
      Accounts accounts,
      OtherAccounts others,
      Connections connections,
      Journal journal,
      BusinessClock clock) {
    this.journal = journal;
    this.clock = clock;
    this.database = database;
    this.found = found;
    this.accounts = accounts;
    this.others = others;
    this.connections = connections;
  }

  static boolean saysWaysIn(Capabilities capabilities) {
    return capabilities.has(Part.SESSIONS) || capabilities.has(Part.WAYS_IN);
  }

  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    var done =
        results.stream()
            .map(Result::change)
            .filter(change -> change.account() != null && change.state().isDone())
            .toList();
    var off = accountsOf(done, ASK);
    if (!off.isEmpty()) {
      found.lookSoon(session, toBeAsked(session, off), Instant.now());
    }
    var over = accountsOf(done, FORGET);
    if (!over.isEmpty()) {
      found.forget(session, over);
    }
  }

  private static List<Long> accountsOf(List<Change> done, Set<ChangeKind> kinds) {
    return done.stream()
        .filter(change -> kinds.contains(change.kind()))
        .map(Change::account)
        .distinct()
        .toList();
  }

  private List<Long> toBeAsked(StatelessSession session, List<Long> off) {
    return toBeAskedOf(session, accounts.getAll(session, off).values());
  }

  /**
   * Those whose application can say what is open, and those to which other accounts are ways in, or
   * were at the last look.
   */
  List<Long> toBeAskedOf(StatelessSession session, Collection<Account> off) {
    var owned = off.stream().filter(account -> account.person() != null).toList();
    var having = others.having(session, owned);
    var looked = found.of(session, owned.stream().map(Account::id).toList());
    return owned.stream()
        .filter(
            account ->
                canSay(account)
                    || having.contains(account.person())
                    || looked.containsKey(account.id()))
        .map(Account::id)
        .toList();
  }

  private boolean canSay(Account account) {
    return saysWaysIn(connections.capabilities(account.application()));
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("access paths", found.isDue(session, Instant.now()) ? 1L : 0L);
  }

  @Scheduled(fixedDelay = 500)
  void look() {
    try {
      // Claiming brings all that was written onto the disk: not where there is nothing to claim.
      while (database.read(session -> found.isDue(session, Instant.now()))) {
        var now = Instant.now();
        database
            .write(session -> found.claim(session, now, now.plus(LEASE), AT_ONCE))
            .forEach(this::ask);
      }
    } catch (RuntimeException e) {
      LOG.error("Ways in could not be asked about; this is tried again", e);
    }
  }

  private void ask(long number) {
    var account = database.read(session -> off(session, number));
    if (account.isEmpty()) {
      database.writeAll(session -> found.forget(session, List.of(number)));
      return;
    }
    try {
      var connector = connections.to(account.get().application());
      var id = account.get().observed().id();
      var sessions = connector.sessions().isPresent() ? connector.sessions().get().open(id) : 0;
      List<Way> open =
          connector.waysIn().isPresent() ? connector.waysIn().get().open(id) : List.of();
      database.writeAll(session -> keep(session, account.get(), sessions, open));
    } catch (Unreachable e) {
      var now = Instant.now();
      database.writeAll(
          session -> found.failed(session, number, e.problem(), now.plus(AFTER_A_FAILURE)));
    }
  }

  private void keep(StatelessSession session, Account account, int sessions, List<Way> open) {
    var ways = new ArrayList<>(open);
    ways.addAll(others.of(session, account));
    if (ways.isEmpty() && !canSay(account)) {
      found.forget(session, List.of(account.id()));
      return;
    }
    var next = Instant.now().plus(ways.size() > open.size() ? WHILE_OTHERS_ARE_OPEN : AGAIN);
    if (found.keep(session, account.id(), sessions, ways, clock.instant(), next)) {
      journal.write(session, clock.instant(), said(account, sessions, ways.size()));
    }
  }

  private static Deed said(Account account, int sessions, int ways) {
    return Deed.of(
        "ebb",
        sessions == 0 && ways == 0
            ? "nothing is open any more to the account in " + account.application()
            : "still open to the suspended account in %s: sessions %d, other ways in %d"
                .formatted(account.application(), sessions, ways),
        account.person());
  }

  /** Empty for one in use: what is open to it is its owner's. */
  private Optional<Account> off(StatelessSession session, long number) {
    return accounts
        .get(session, number)
        .filter(account -> account.person() != null)
        .filter(account -> account.level().exists() && !account.observed().usable());
  }
}
