package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeSet;
import ebb.core.change.Finding;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.connections.Connections;
import ebb.service.connections.SettingsCheck;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.Keeper;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Drifts;
import ebb.store.applications.Groups;
import ebb.store.applications.SyncRun;
import ebb.store.applications.SyncRun.Counts;
import ebb.store.applications.SyncRuns;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Reads applications, and finds where they are not what they should be. */
@Component
final class Syncs {
  private static final Duration TELL_EVERY = Duration.ofSeconds(1);

  /** Accounts of nobody are counted no further where little was read. */
  static final int COUNTED = 1_000;

  private static final int SETS_AT_ONCE = 20;

  /** Values that were as they should be for so long are no longer quarrelled about. */
  private static final Duration REMEMBERED = Duration.ofDays(90);

  private final Database database;
  private final Connections connections;
  private final Accounts accounts;
  private final Applications applications;
  private final SyncRuns runs;
  private final Drifts drifts;
  private final Changes changes;
  private final ChangeSets changeSets;
  private final Proposals proposals;
  private final Placing placing;
  private final Releases releases;
  private final SyncReading.Kept kept;
  private final Journal journal;
  private final BusinessClock clock;
  private final boolean alone;

  /**
   * Applications that are being read. Two readings at once would each miss what the other wrote.
   */
  private final Set<String> going = ConcurrentHashMap.newKeySet();

  /** Applications read since all their accounts of nobody were looked at. */
  private final Set<String> toPlaceAgain = ConcurrentHashMap.newKeySet();

  /** What had been released when they were. */
  private final Map<String, Instant> placedAt = new ConcurrentHashMap<>();

  Syncs(
      Database database,
      Connections connections,
      Accounts accounts,
      Groups groups,
      Applications applications,
      SyncRuns runs,
      Drifts drifts,
      Changes changes,
      ChangeSets changeSets,
      AccountMatching matching,
      Placing placing,
      Proposals proposals,
      Releases releases,
      Journal journal,
      BusinessClock clock,
      @Value("${ebb.database-url}") String databaseUrl) {
    this.alone = databaseUrl.startsWith("jdbc:h2:file:");
    this.database = database;
    this.connections = connections;
    this.accounts = accounts;
    this.applications = applications;
    this.runs = runs;
    this.drifts = drifts;
    this.changes = changes;
    this.changeSets = changeSets;
    this.proposals = proposals;
    this.placing = placing;
    this.releases = releases;
    this.kept = new SyncReading.Kept(database, accounts, groups, matching);
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * Reads an application and shows what drifted; puts it right where its policy says so.
   *
   * @param all whether to read everything, though it could say what changed
   * @throws Refusal if it is being read already, or does not answer
   */
  SyncRun sync(Application application, boolean all, String by) {
    var name = application.name();
    if (!going.add(name)) {
      throw new Refusal(Refusal.Kind.CONFLICT, underWay(name));
    }
    try {
      return run(application, all, by);
    } finally {
      going.remove(name);
    }
  }

  boolean isGoing(String application) {
    return going.contains(application);
  }

  /** Readings, people to be compared again, and accounts whose owner is still to be looked for. */
  Map<String, Long> running(StatelessSession session) {
    var toLookAt = 0L;
    for (var application : applications.list(session)) {
      toLookAt += drifts.toLookAt(session, application.name(), new PersonId(0), 1).size();
      toLookAt += placing.isAnyNew(session, application) ? 1 : 0;
      toLookAt += isToBePlacedAgain(session, application.name()) ? 1 : 0;
    }
    return Map.of("syncs", (long) going.size(), "findings", toLookAt);
  }

  private boolean isToBePlacedAgain(StatelessSession session, String application) {
    return toPlaceAgain.contains(application)
        && changeSets
            .lastReleased(session)
            .orElse(Instant.EPOCH)
            .isAfter(placedAt.getOrDefault(application, Instant.EPOCH));
  }

  private SyncRun run(Application application, boolean all, String by) {
    var name = application.name();
    var begun = new AtomicReference<SyncRun>();
    // Onto the disk with what it brings.
    database.writeForNow(session -> begun.set(runs.begin(session, name, by, clock.instant())));
    var run = begun.get();
    try {
      return read(application, all, run);
    } catch (Unreachable e) {
      brokenOff(run, e.problem());
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    } catch (RuntimeException e) {
      brokenOff(run, fault(name, e));
      throw e;
    }
  }

  private SyncRun read(Application application, boolean all, SyncRun run) throws Unreachable {
    var name = application.name();
    var told = new AtomicLong(System.nanoTime());
    var since = all ? null : database.read(session -> runs.mark(session, name));
    var arePlaced = database.read(session -> arePlaced(session, name));
    try (var keeper = new Keeper()) {
      var reading =
          new SyncReading(
              kept,
              name,
              application.settings(),
              connections.capabilities(name).has(Part.RESTORE),
              clock.instant(),
              keeper,
              counts -> progress(run, counts, told));
      if (since == null) {
        reading.expectAll();
      }
      var end = connections.to(name).read(since, reading);
      reading.finish(end);
      // Kept only now: what was not taken in to its end has to come again.
      database.writeForNow(session -> runs.keepMark(session, name, end.mark()));
      var affected = new HashSet<>(reading.affected());
      // A few are placed at once; many are, while people work.
      Optional.ofNullable(placing.lookAtNew(application)).ifPresent(affected::addAll);
      if (end.whole() && arePlaced) {
        toPlaceAgain.add(name);
      }
      var set = compare(name, affected, run.by());
      return ended(run.at(end.whole(), reading.counts()), set);
    }
  }

  private void progress(SyncRun run, Counts counts, AtomicLong told) {
    var now = System.nanoTime();
    if (now - told.get() > TELL_EVERY.toNanos()) {
      told.set(now);
      database.writeForNow(session -> runs.put(session, run.at(run.whole(), counts)));
    }
  }

  /**
   * Computes those whose accounts changed, and those who were not as they should be the last time.
   * One set holds all that drifted: the one before it gives way.
   */
  Optional<ChangeSet> compare(String application, Set<PersonId> affected, String by) {
    abandonShown(application);
    var drifting = new Drifting(application);
    var parts = parts(application, affected);
    for (var part : parts) {
      database.writeForNow(session -> drifts.looking(session, application, part));
    }
    var set =
        proposals.differences(
            corrects(application) ? Cause.CORRECTION : Cause.SYNC,
            "drift in " + application,
            by,
            parts,
            drifting::add);
    var all = drifting.all();
    for (var part : parts) {
      database.writeForNow(session -> keepDrift(session, application, part, all));
    }
    return set;
  }

  private void abandonShown(String application) {
    List<Long> shown;
    do {
      shown =
          database.write(
              session -> {
                var some = changeSets.shownDrift(session, application, SETS_AT_ONCE);
                some.forEach(set -> proposals.abandon(session, set));
                return some;
              });
    } while (shown.size() == SETS_AT_ONCE);
  }

  /** Computes these people anew, and keeps whether they drifted; proposes nothing. */
  void look(String application, Collection<PersonId> who) {
    var drifting = new Drifting(application);
    for (var part : inParts(new TreeSet<>(who))) {
      database.writeForNow(
          session -> {
            drifts.looking(session, application, part);
            proposals.drafts(session, part).forEach(drifting::add);
            keepDrift(session, application, part, drifting.all());
            applications.looked(session, application);
          });
    }
  }

  /** Looks again at those for whom something was done since. */
  void lookAgain(String application) {
    var last = new PersonId(0);
    Set<PersonId> part;
    do {
      var after = last;
      part = database.read(session -> drifts.toLookAt(session, application, after, Evaluator.PART));
      if (!part.isEmpty()) {
        look(application, part);
        last = ((TreeSet<PersonId>) part).last();
      }
    } while (!part.isEmpty());
  }

  /** Looks whose the accounts of nobody may be; at all of them again where people came since. */
  void place(Application application) {
    Set<PersonId> found;
    do {
      found = placing.lookAtNew(application);
      if (found != null) {
        look(application.name(), found);
      }
    } while (found != null);
    var released = database.read(changeSets::lastReleased).orElse(Instant.EPOCH);
    if (released.isAfter(placedAt.getOrDefault(application.name(), Instant.EPOCH))
        && toPlaceAgain.remove(application.name())) {
      look(application.name(), placing.lookAtAll(application));
      placedAt.put(application.name(), released);
    }
  }

  /** Whoever's is being put right is looked at again until it is. */
  private void keepDrift(
      StatelessSession session,
      String application,
      Collection<PersonId> part,
      Map<PersonId, Drifts.Drift> drifting) {
    var beingPutRight =
        changes.underWay(session, part).stream()
            .filter(change -> change.application().equals(application))
            .map(Change::person)
            .filter(person -> !drifting.containsKey(person))
            .collect(Collectors.toSet());
    var looked = new HashSet<>(part);
    looked.removeAll(beingPutRight);
    drifts.keep(session, application, looked, drifting, clock.instant());
    drifts.lookAgain(session, application, beingPutRight);
  }

  private List<List<PersonId>> parts(String application, Set<PersonId> affected) {
    var all = new TreeSet<>(affected);
    var last = new PersonId(0);
    Set<PersonId> more;
    do {
      var after = last;
      more = database.read(session -> drifts.people(session, application, after, Evaluator.PART));
      all.addAll(more);
      last = more.isEmpty() ? last : ((TreeSet<PersonId>) more).last();
    } while (!more.isEmpty());
    return inParts(all);
  }

  private static List<List<PersonId>> inParts(SortedSet<PersonId> all) {
    var parts = new ArrayList<List<PersonId>>();
    var part = new ArrayList<PersonId>();
    for (var person : all) {
      part.add(person);
      if (part.size() == Evaluator.PART) {
        parts.add(List.copyOf(part));
        part.clear();
      }
    }
    if (!part.isEmpty()) {
      parts.add(part);
    }
    return parts;
  }

  private SyncRun ended(SyncRun run, Optional<ChangeSet> set) {
    var name = run.application();
    var ended =
        database.write(
            session -> {
              var now = clock.instant();
              var read = run.counts();
              var counts =
                  new Counts(
                      read.read(),
                      read.changed(),
                      read.found(),
                      read.missing(),
                      drifts.count(session, name),
                      countOfNobody(session, name, run.whole() ? Integer.MAX_VALUE - 1 : COUNTED));
              var one = run.ended(now, counts, set.map(ChangeSet::id).orElse(null));
              runs.put(session, one);
              runs.prune(session, name);
              drifts.forget(session, name, now.minus(REMEMBERED));
              applications.synced(session, name, now);
              journal.write(session, now, Deed.of(run.by(), words(one)));
              return one;
            });
    set.filter(one -> one.cause() == Cause.CORRECTION).ifPresent(releases::releaseByItself);
    return ended;
  }

  /** Whether it was looked whose any of the accounts of nobody may be. */
  private boolean arePlaced(StatelessSession session, String application) {
    return Stream.of(Finding.DUPLICATE, Finding.DOUBTFUL, Finding.UNMATCHED)
        .anyMatch(kind -> accounts.count(session, application, kind, 1) > 0);
  }

  private long countOfNobody(StatelessSession session, String application, int limit) {
    return Stream.of(Finding.values())
        .filter(Finding::isOfNobody)
        .mapToLong(kind -> accounts.count(session, application, kind, limit))
        .sum();
  }

  private boolean corrects(String application) {
    return database
        .read(session -> applications.get(session, application))
        .map(one -> SettingsCheck.CORRECT.equals(one.settings().get(SettingsCheck.DRIFT)))
        .orElse(false);
  }

  private static String words(SyncRun run) {
    var counts = run.counts();
    return "synced %s: %d read, %d drifted, %d missing, %d unmatched"
        .formatted(
            run.application(),
            counts.read(),
            counts.drifted(),
            counts.missing(),
            counts.unmatched());
  }

  private void brokenOff(SyncRun run, Problem why) {
    database.writeAll(
        session -> {
          var now = clock.instant();
          runs.put(session, runs.get(session, run.id()).orElse(run).brokenOff(now, why));
          applications.checked(session, run.application(), why, now);
        });
  }

  /** Those that were going on when a process alone on its database was ended. */
  @EventListener(ApplicationReadyEvent.class)
  void breakOffDead() {
    if (alone) {
      database.read(runs::going).stream()
          .filter(run -> !going.contains(run.application()))
          .forEach(run -> brokenOff(run, interrupted(run.application())));
    }
  }

  private static Problem interrupted(String application) {
    return new Problem(
        "sync-interrupted",
        "The reading of %s was interrupted.".formatted(application),
        "Ebb was stopped while it went on; what was read is kept.",
        "Sync it again.",
        null);
  }

  private static Problem fault(String application, RuntimeException e) {
    return new Problem(
        "sync-fault",
        "The reading of %s met a fault of Ebb's own.".formatted(application),
        e.toString(),
        "Sync it again; if that goes on, tell whoever looks after Ebb.",
        null);
  }

  private static Problem underWay(String application) {
    return new Problem(
        "sync-under-way",
        "%s is being read already.".formatted(application),
        "Two readings at once would each miss what the other takes in.",
        "Wait for it to end: ebb applications syncs " + application,
        null);
  }
}
