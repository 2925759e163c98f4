package ebb.service.sync;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Print;
import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.Keeper;
import ebb.store.applications.Account;
import ebb.store.applications.AccountPress;
import ebb.store.applications.Accounts;
import ebb.store.applications.Groups;
import ebb.store.applications.SyncRun.Counts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import org.hibernate.StatelessSession;

/**
 * Takes in what one reading comes past. Accounts that look as they did are not written; what is
 * kept of them is known by a print of 128 bits each.
 */
final class SyncReading implements Sightings {
  private static final int PART = 500;

  private final Kept kept;
  private final String application;
  private final Map<String, String> settings;
  private final boolean comesBack;
  private final Instant now;
  private final Consumer<Counts> progress;
  private final Keeper keeper;

  private final AccountPress press = new AccountPress();
  private final Set<PersonId> affected = new HashSet<>();
  private final Map<String, ObservedGroup> groups = new HashMap<>();
  private final Set<String> groupsGone = new HashSet<>();
  private final Set<String> groupsUnchanged = new HashSet<>();
  private final Map<String, Set<String>> members = new TreeMap<>();
  private final List<String> gone = new ArrayList<>();
  private final List<String> changedIds = new ArrayList<>();
  private final AtomicLong changed = new AtomicLong();
  private final AtomicLong found = new AtomicLong();
  private final AtomicLong read = new AtomicLong();
  private long missing;
  private List<ObservedAccount> part = new ArrayList<>();

  /** Null until it is needed: of what changed there is little, and it is looked up. */
  private KeyTable known;

  /** What keeping needs. */
  record Kept(Database database, Accounts accounts, Groups groups, AccountMatching matching) {}

  /**
   * @param comesBack whether what is deleted stays there, switched off
   * @param progress told now and then how far it has come
   */
  SyncReading(
      Kept kept,
      String application,
      Map<String, String> settings,
      boolean comesBack,
      Instant now,
      Keeper keeper,
      Consumer<Counts> progress) {
    this.kept = kept;
    this.application = application;
    this.settings = settings;
    this.comesBack = comesBack;
    this.now = now;
    this.keeper = keeper;
    this.progress = progress;
  }

  /** Before everything is read: what is kept of each account need not be looked up then. */
  void expectAll() {
    known = new KeyTable(0);
    // Meanwhile the application is asked for its first pages.
    keeper.keep(this::goThroughKnown);
  }

  private void goThroughKnown() {
    kept.database()
        .read(
            session -> {
              kept.accounts()
                  .each(
                      session,
                      application,
                      (id, remoteId, level, print) ->
                          known.know(
                              Print.of(remoteId),
                              id,
                              level.exists() ? print : null,
                              level.exists()));
              return null;
            });
  }

  @Override
  public void account(ObservedAccount account) {
    read.incrementAndGet();
    if (known == null) {
      changedIds.add(account.id());
    }
    part.add(account);
    if (part.size() == PART) {
      keepPart();
    }
  }

  /** Told of all that did not change, to find who is gone. */
  @Override
  public void unchanged(String accountId) {
    expectUnread();
    known.name(Print.of(accountId), 1);
  }

  /** All but what came already. */
  private void expectUnread() {
    if (known == null) {
      keepPart();
      keeper.finish();
      expectAll();
      keeper.finish();
      changedIds.forEach(id -> known.name(Print.of(id), 1));
    }
  }

  @Override
  public void gone(String accountId) {
    gone.add(accountId);
  }

  @Override
  public void group(ObservedGroup group) {
    groups.put(group.id(), group);
  }

  @Override
  public void groupUnchanged(String groupId) {
    groupsUnchanged.add(groupId);
  }

  @Override
  public void groupGone(String groupId) {
    groupsGone.add(groupId);
  }

  @Override
  public void members(String group, Set<String> accountIds) {
    members.put(group, accountIds);
  }

  private void keepMembers(StatelessSession session, String group, Set<String> accountIds) {
    var before = kept.groups().accountsIn(session, application, group);
    var had =
        before.isEmpty()
            ? List.<Account>of()
            : List.copyOf(kept.accounts().getAll(session, before).values());
    var joined = new HashSet<>(accountIds);
    for (var account : had) {
      if (!joined.remove(account.observed().id())) {
        moved(session, account, group, false);
      }
    }
    kept.accounts()
        .byRemoteIds(session, application, joined)
        .values()
        .forEach(account -> moved(session, account, group, true));
  }

  private void moved(StatelessSession session, Account account, String group, boolean joined) {
    var names = new TreeSet<>(account.observed().groups());
    if (joined ? names.add(group) : names.remove(group)) {
      var observed = account.observed().inGroups(names);
      putAll(session, List.of(account.seen(level(account, observed), observed, now)));
    }
  }

  private void keepPart() {
    var full = part;
    if (!full.isEmpty()) {
      part = new ArrayList<>();
      keeper.keep(() -> keep(full));
    }
  }

  /** On the keeper's thread, one part after the other. */
  private void keep(List<ObservedAccount> full) {
    var differing = known == null ? full : full.stream().filter(this::isDiffering).toList();
    if (!differing.isEmpty()) {
      kept.database().writeForNow(session -> keep(session, differing));
    }
    progress.accept(counts());
  }

  private boolean isDiffering(ObservedAccount account) {
    var key = Print.of(account.id());
    known.name(key, 1);
    return !known.isSame(key, press.of(account));
  }

  /** Not one of those that were gone through before. */
  private boolean mayBeKnown(String id) {
    return known == null || known.person(Print.of(id)) != 0;
  }

  private void keep(StatelessSession session, List<ObservedAccount> differing) {
    var there =
        kept.accounts()
            .byRemoteIds(
                session,
                application,
                differing.stream().map(ObservedAccount::id).filter(this::mayBeKnown).toList());
    var strangers =
        differing.stream()
            .filter(
                account ->
                    !there.containsKey(account.id()) || there.get(account.id()).person() == null)
            .toList();
    var owners = kept.matching().owners(session, application, settings, strangers);
    var numbers =
        kept.accounts()
            .numbers(
                session,
                (int)
                    differing.stream().filter(account -> !there.containsKey(account.id())).count());
    var made = new ArrayList<Account>();
    var seen = new ArrayList<Account>();
    for (var observed : differing) {
      var account = there.get(observed.id());
      var owner = owners.get(observed.id());
      if (account == null) {
        made.add(made(numbers.pop(), owner, observed));
      } else {
        seen(account, owner, observed).ifPresent(seen::add);
      }
      if (owner != null) {
        affected.add(owner);
      }
    }
    kept.accounts().addAll(session, made);
    putAll(session, seen);
    found.addAndGet(made.size());
  }

  private Account made(long number, PersonId owner, ObservedAccount observed) {
    return new Account(
        number,
        application,
        owner,
        observed.usable() ? Level.ACTIVE : Level.SUSPENDED,
        observed,
        new TreeMap<>(),
        false,
        null,
        null,
        null,
        now);
  }

  /** Empty if it is as it was. */
  private Optional<Account> seen(Account account, PersonId owner, ObservedAccount observed) {
    var owned = owner == null ? account : account.of(owner);
    var isGone = !account.level().exists() && !observed.usable() && comesBack;
    var isAsKept = account.observed().equals(observed) && account.level().exists();
    return !isGone && (owner != null || !isAsKept)
        ? Optional.of(owned.seen(level(account, observed), observed, now))
        : Optional.empty();
  }

  private void putAll(StatelessSession session, List<Account> all) {
    changed.addAndGet(all.size());
    if (!all.isEmpty()) {
      kept.accounts().putAll(session, all);
    }
    all.stream().map(Account::person).filter(Objects::nonNull).forEach(affected::add);
  }

  private static Level level(Account account, ObservedAccount observed) {
    if (observed.usable()) {
      return Level.ACTIVE;
    }
    return account.level() == Level.PREPARED ? Level.PREPARED : Level.SUSPENDED;
  }

  private void gone(StatelessSession session, Collection<Account> accounts) {
    for (var account : accounts) {
      if (account.level().exists()) {
        missing++;
        kept.accounts().put(session, account.seen(Level.GONE, account.observed(), now));
        if (account.person() != null) {
          affected.add(account.person());
        }
      }
    }
  }

  /** After the last of it. */
  void finish(Reading reading) {
    keepPart();
    keeper.finish();
    if (reading.whole()) {
      expectUnread();
      goneOf(List.copyOf(known.vanished()));
    }
    if (!gone.isEmpty() || !members.isEmpty()) {
      kept.database()
          .writeForNow(
              session -> {
                gone(session, kept.accounts().byRemoteIds(session, application, gone).values());
                members.forEach((group, ids) -> keepMembers(session, group, ids));
              });
    }
    keepGroups(reading.wholeOfGroups());
  }

  private void goneOf(List<Long> numbers) {
    for (int from = 0; from < numbers.size(); from += PART) {
      var some = numbers.subList(from, Math.min(from + PART, numbers.size()));
      kept.database()
          .writeForNow(session -> gone(session, kept.accounts().getAll(session, some).values()));
    }
  }

  private void keepGroups(boolean whole) {
    if (whole || !groups.isEmpty() || !groupsGone.isEmpty()) {
      kept.database().writeForNow(session -> keepGroups(session, whole));
    }
  }

  private void keepGroups(StatelessSession session, boolean whole) {
    var before = kept.groups().all(session, application);
    groups.forEach(
        (id, group) -> {
          if (!group.equals(before.get(id))) {
            kept.groups().put(session, application, group);
          }
        });
    if (whole) {
      groupsGone.addAll(before.keySet());
      groupsGone.removeAll(groups.keySet());
      groupsGone.removeAll(groupsUnchanged);
    }
    groupsGone.forEach(id -> kept.groups().remove(session, application, id));
  }

  /** Whose accounts are not as they were. */
  Set<PersonId> affected() {
    return affected;
  }

  Counts counts() {
    return new Counts(read.get(), changed.get(), found.get(), missing, 0, 0);
  }
}
