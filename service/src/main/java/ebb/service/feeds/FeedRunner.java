package ebb.service.feeds;

import ebb.connectors.feed.Fetched;
import ebb.connectors.feed.Folder;
import ebb.connectors.feed.HttpPuller;
import ebb.connectors.feed.Puller;
import ebb.connectors.feed.SftpPuller;
import ebb.core.application.Secret;
import ebb.core.change.ChangeSet;
import ebb.core.change.SetState;
import ebb.core.feed.Feed;
import ebb.core.feed.FeedRun;
import ebb.core.feed.FeedRun.Outcome;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import ebb.core.imports.Import;
import ebb.core.imports.Verdict;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Releases;
import ebb.service.imports.Deliveries;
import ebb.service.imports.Deliveries.Delivery;
import ebb.service.notices.OperatorNotices;
import ebb.service.push.PushedPuller;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.changes.ChangeSets;
import ebb.store.feeds.Feeds;
import ebb.store.imports.Imports;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.util.unit.DataSize;

/**
 * Looks for deliveries, has them read, and lets through what goes on by itself: claim, call with no
 * transaction open, record. One look at a feed at a time.
 */
@Component
final class FeedRunner implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(FeedRunner.class);

  /** What is got in one go from a place that holds several deliveries. */
  private static final int MOST_AT_ONCE = 100;

  /** Among so many lies the last that was stopped, if any was. */
  private static final int RUNS_BEFORE = 20;

  /** A list of a million people comes in minutes; an endless one is given up. */
  private static final Duration LONGEST_PULL = Duration.ofMinutes(15);

  private static final DateTimeFormatter WHEN =
      DateTimeFormatter.ofPattern("d MMMM uuuu 'at' HH:mm VV", Locale.ENGLISH);

  private static final Set<String> NEWS =
      Set.of(
          Verdict.NEW.word(),
          Verdict.CHANGED.word(),
          Verdict.SET_ASIDE.word(),
          Verdict.REFUSED.word(),
          Import.MISSING);

  private final Database database;
  private final BusinessClock clock;
  private final Feeds feeds;
  private final Imports imports;
  private final ChangeSets changeSets;
  private final Deliveries deliveries;
  private final Releases releases;
  private final OperatorNotices notices;
  private final SecretBox secrets;
  private final PushedPuller pushed;
  private final Path scratch;
  private final long largest;
  private final Map<String, ReentrantLock> locks = new ConcurrentHashMap<>();
  private final Map<String, Queue<FeedRun>> brokenOff = new ConcurrentHashMap<>();
  private volatile boolean isReady;

  FeedRunner(
      Database database,
      BusinessClock clock,
      Feeds feeds,
      Imports imports,
      ChangeSets changeSets,
      Deliveries deliveries,
      Releases releases,
      OperatorNotices notices,
      SecretBox secrets,
      PushedPuller pushed,
      @Value("${ebb.home}") Path home,
      @Value("${ebb.largest-upload}") DataSize largest)
      throws IOException {
    this.database = database;
    this.clock = clock;
    this.feeds = feeds;
    this.imports = imports;
    this.changeSets = changeSets;
    this.deliveries = deliveries;
    this.releases = releases;
    this.notices = notices;
    this.secrets = secrets;
    this.pushed = pushed;
    this.scratch = Files.createDirectories(home.resolve("feeds"));
    this.largest = largest.toBytes();
  }

  /** What a run was begun for, and by whom. */
  record Why(FeedRun.Cause cause, String by) {
    static final Why TIMETABLE = new Why(FeedRun.Cause.TIMETABLE, Releases.BY_ITSELF);
    static final Why DELIVERY = new Why(FeedRun.Cause.DELIVERY, Releases.BY_ITSELF);
  }

  /**
   * Gets all that is new from a feed that is pulled.
   *
   * @return whether trying again in a moment may help
   */
  boolean pull(String source, Why why) {
    return alone(source, () -> pull(feed(source), why));
  }

  private boolean pull(Feed feed, Why why) {
    // An address holds one list; a folder over there may hold several deliveries.
    var most = feed.origin().kind() == Origin.Kind.SFTP ? MOST_AT_ONCE : 1;
    for (int i = 0; i < most; i++) {
      var run = begin(feed, why);
      try {
        var done = pullOne(feed, run);
        if (done.file() == null || !done.outcome().isDelivery()) {
          return false;
        }
      } catch (Undelivered e) {
        end(run, Outcome.FAILED, e.problem());
        return e.isPassing();
      }
    }
    return false;
  }

  private FeedRun pullOne(Feed feed, FeedRun run) throws Undelivered {
    Path file = null;
    try {
      file = Files.createTempFile(scratch, "delivery-", ".part");
      var fetched = puller(feed).fetch(file, mark(feed, run.cause()));
      if (fetched.isEmpty()) {
        return end(run, Outcome.NOTHING_NEW, null);
      }
      giveWay(feed, run);
      var done = deliver(feed, run, file, fetched.get().name(), fetched.get().writtenAt());
      if (isBehindUs(feed, done.outcome())) {
        database.writeAll(session -> feeds.putMark(session, feed.source(), fetched.get().mark()));
      }
      return done;
    } catch (IOException e) {
      return end(run, Outcome.FAILED, disk(e));
    } finally {
      delete(file);
    }
  }

  /**
   * The mark since which a delivery is got; null for all there is. What was pushed is all gone
   * through at its times and when somebody says so: what was given up comes to light again.
   */
  private String mark(Feed feed, FeedRun.Cause cause) {
    return feed.origin().kind() == Origin.Kind.PUSH && cause != FeedRun.Cause.DELIVERY
        ? null
        : database.read(session -> feeds.mark(session, feed.source())).orElse(null);
  }

  /**
   * What was pushed and is stopped comes again with whatever is pushed next: an old word must not
   * be let through after a new one.
   */
  private static boolean isBehindUs(Feed feed, Outcome outcome) {
    return feed.origin().kind() == Origin.Kind.PUSH
        ? outcome == Outcome.DONE || outcome == Outcome.NOTHING_NEW
        : outcome.isDelivery();
  }

  /** A delivery that was stopped is part of the one that is made now. */
  private void giveWay(Feed feed, FeedRun now) {
    if (feed.origin().kind() != Origin.Kind.PUSH) {
      return;
    }
    database
        .read(session -> feeds.runs(session, feed.source(), now.id(), RUNS_BEFORE))
        .items()
        .stream()
        .filter(run -> run.outcome() == Outcome.STOPPED)
        .forEach(run -> giveUp(run.made(), Releases.BY_ITSELF));
  }

  /** Takes in all files of a watched folder that are whole. */
  void take(Feed feed, Folder folder, Why why) {
    alone(
        feed.source(),
        () -> {
          try {
            for (var taken : folder.left()) {
              takeOne(feed, folder, taken, why);
            }
            for (var file : folder.ready()) {
              takeOne(feed, folder, folder.take(file), why);
            }
            wellAgain(feed);
          } catch (Undelivered e) {
            noteTrouble(feed.source(), e.problem());
          }
          return false;
        });
  }

  /** A folder that could not be read is well; what a run said of its last file stays. */
  private void wellAgain(Feed feed) {
    database
        .read(session -> feeds.trouble(session, feed.source()))
        .filter(trouble -> trouble.problem().code().equals("feed-folder-amiss"))
        .ifPresent(_ -> noteTrouble(feed.source(), null));
  }

  private void takeOne(Feed feed, Folder folder, Path taken, Why why) throws Undelivered {
    var run = begin(feed, why);
    try {
      var writtenAt = Files.getLastModifiedTime(taken).toInstant();
      putAway(folder, taken, deliver(feed, run, taken, taken.getFileName().toString(), writtenAt));
    } catch (IOException e) {
      // Left where it lies it would be tried again at each look.
      folder.quarantine(taken, end(run, Outcome.FAILED, disk(e)).problem(), clock.instant());
    }
  }

  /** Has a delivery read, and lets through what goes on by itself. */
  private FeedRun deliver(Feed feed, FeedRun run, Path file, String name, Instant writtenAt)
      throws IOException {
    try {
      var made =
          deliveries.take(
              new Delivery(feed.source(), file, name, writtenAt, feed.complete()),
              Releases.BY_ITSELF);
      var found = run.found(name, made.id());
      database.writeAll(session -> feeds.put(session, found));
      return follow(feed, found, deliveries.await(made));
    } catch (Refusal refusal) {
      return end(run.found(name, null), Outcome.FAILED, refusal.problems().getFirst());
    } catch (RuntimeException e) {
      LOG.error("The delivery {} of {} could not be taken in", name, feed.source(), e);
      return end(run.found(name, null), Outcome.FAILED, fault(name));
    }
  }

  private FeedRun follow(Feed feed, FeedRun run, Import made) {
    if (!made.questions().isEmpty()) {
      return end(run, Outcome.ASKED, made.questions().getFirst());
    }
    var set = set(made);
    if (!set.stops().isEmpty()) {
      return end(run, Outcome.STOPPED, set.stops().getFirst());
    }
    deliveries.decide(made, feed.missing(), Releases.BY_ITSELF);
    try {
      // A release that a crash broke off goes on by itself.
      if (set.state() == SetState.SHOWN) {
        releases.releaseByItself(set(made));
      }
    } catch (Refusal refusal) {
      return end(run, Outcome.STOPPED, refusal.problems().getFirst());
    }
    var isNews =
        made.counts().entrySet().stream()
            .anyMatch(count -> NEWS.contains(count.getKey()) && count.getValue() > 0);
    return end(run, isNews ? Outcome.DONE : Outcome.NOTHING_NEW, null);
  }

  private ChangeSet set(Import made) {
    return database.read(session -> changeSets.get(session, made.changeSet())).orElseThrow();
  }

  /**
   * Brings in what there is now as a file that somebody brings in: nothing releases itself, nothing
   * is taken away over there, and the next look finds the same.
   *
   * @throws Refusal if there is nothing, or it cannot be got
   */
  Import test(String source, String by) {
    var feed = feed(source);
    Path file = null;
    try {
      file = Files.createTempFile(scratch, "test-", ".part");
      var fetched = sample(feed, file);
      forgetTest(source, by);
      var made =
          deliveries.take(
              new Delivery(source, file, fetched.name(), fetched.writtenAt(), feed.complete()), by);
      database.writeAll(session -> feeds.putTried(session, source, made.id()));
      return deliveries.await(made);
    } catch (Undelivered e) {
      throw Refusal.conflict(e.problem());
    } catch (IOException e) {
      throw Refusal.conflict(disk(e));
    } finally {
      delete(file);
    }
  }

  /** Gives up what the last test proposed, unless somebody let it through. */
  void forgetTest(String source, String by) {
    database.read(session -> feeds.tried(session, source)).ifPresent(made -> giveUp(made, by));
    database.writeAll(session -> feeds.putTried(session, source, null));
  }

  /** Gives up what an import proposes, unless somebody let some of it through. */
  private void giveUp(long made, String by) {
    database
        .read(session -> imports.get(session, made))
        .map(Import::changeSet)
        .flatMap(set -> database.read(session -> changeSets.get(session, set)))
        .filter(set -> set.state() == SetState.SHOWN && set.releasedAt() == null)
        .ifPresent(set -> releases.discard(set.id(), null, by));
  }

  private Fetched sample(Feed feed, Path into) throws Undelivered, IOException {
    if (feed.origin().kind().isPulled()) {
      return puller(feed).fetch(into, null).orElseThrow(() -> nothing(feed));
    }
    var folder = new Folder(feed.origin());
    folder.ready();
    var first = folder.ready().stream().findFirst().orElseThrow(() -> nothing(feed));
    Files.copy(first, into, StandardCopyOption.REPLACE_EXISTING);
    return new Fetched(
        first.getFileName().toString(), Files.getLastModifiedTime(first).toInstant(), null);
  }

  /** Says that a delivery did not come. */
  void late(Feed feed, Instant expected) {
    var run = begin(feed, Why.TIMETABLE);
    end(run, Outcome.LATE, late(feed.source(), WHEN.format(expected.atZone(clock.zone()))));
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("deliveries", (long) feeds.running(session).size());
  }

  /**
   * Takes up what a crash broke off, before a feed is looked at again: the same delivery must not
   * come in twice. Readings were begun anew by then.
   */
  @EventListener(ApplicationReadyEvent.class)
  @Order(Ordered.LOWEST_PRECEDENCE)
  void resume() {
    for (var run : database.read(feeds::running)) {
      brokenOff.computeIfAbsent(run.source(), _ -> new ConcurrentLinkedQueue<>()).add(run);
    }
    isReady = true;
    brokenOff
        .keySet()
        .forEach(
            source ->
                Thread.ofVirtual().name("feed-" + source).start(() -> alone(source, () -> false)));
  }

  private void takeUp(String source) {
    var runs = brokenOff.getOrDefault(source, new ConcurrentLinkedQueue<>());
    for (var run = runs.peek(); run != null; run = runs.peek()) {
      takeUp(run);
      runs.remove();
    }
  }

  private void takeUp(FeedRun run) {
    var made =
        run.made() == null
            ? Optional.<Import>empty()
            : database.read(session -> imports.get(session, run.made()));
    if (made.isEmpty()) {
      // What had been taken lies where the look that follows finds it; nobody need be told.
      var ended = run.ended(Outcome.FAILED, brokeOff(run.source()), clock.instant());
      database.writeAll(session -> feeds.put(session, ended));
      return;
    }
    try {
      var feed = feed(run.source());
      putAway(feed, follow(feed, run, deliveries.await(made.get())));
    } catch (Refusal refusal) {
      end(run, Outcome.FAILED, refusal.problems().getFirst());
    }
  }

  private void putAway(Feed feed, FeedRun done) {
    if (feed.origin().kind() != Origin.Kind.FOLDER) {
      return;
    }
    var folder = new Folder(feed.origin());
    try {
      for (var taken : folder.left()) {
        if (taken.getFileName().toString().equals(done.file())) {
          putAway(folder, taken, done);
        }
      }
    } catch (Undelivered e) {
      noteTrouble(feed.source(), e.problem());
    }
  }

  private void putAway(Folder folder, Path taken, FeedRun done) throws Undelivered {
    if (done.outcome() == Outcome.FAILED) {
      folder.quarantine(taken, done.problem(), clock.instant());
    } else {
      folder.archive(taken, clock.instant());
    }
  }

  private FeedRun begin(Feed feed, Why why) {
    return database.write(
        session -> {
          var run =
              new FeedRun(
                  feeds.number(session),
                  feed.source(),
                  why.cause(),
                  Outcome.RUNNING,
                  null,
                  null,
                  null,
                  why.by(),
                  clock.instant(),
                  null);
          feeds.put(session, run);
          return run;
        });
  }

  private FeedRun end(FeedRun run, Outcome outcome, Problem problem) {
    var ended = run.ended(outcome, problem, clock.instant());
    return database.write(
        session -> {
          feeds.put(session, ended);
          note(session, run.source(), problem);
          return ended;
        });
  }

  private void noteTrouble(String source, Problem problem) {
    database.writeAll(session -> note(session, source, problem));
  }

  private void note(StatelessSession session, String source, Problem problem) {
    var at = clock.instant();
    if (feeds.note(session, source, problem, at) && problem != null) {
      notices.needed(
          session, "Feed %s: %s".formatted(source, problem.what()), "/where/feeds/" + source, at);
    }
  }

  private Puller puller(Feed feed) {
    return switch (feed.origin().kind()) {
      case HTTP -> new HttpPuller(feed.origin(), secret(feed), largest, LONGEST_PULL);
      case SFTP -> new SftpPuller(feed.origin(), secret(feed), largest, LONGEST_PULL);
      case PUSH -> pushed.of(feed);
      case FOLDER -> throw new IllegalArgumentException("A folder's files are taken one by one");
    };
  }

  private Secret secret(Feed feed) {
    return new Secret(
        database
            .read(session -> feeds.secret(session, feed.source()))
            .map(secrets::open)
            .orElse(""));
  }

  private Feed feed(String source) {
    return database
        .read(session -> feeds.get(session, source))
        .orElseThrow(() -> Refusal.notFound("feed", source, "See: ebb feeds list"));
  }

  /** Whether a look at a feed goes on. */
  boolean isLookedAt(String source) {
    return locks.containsKey(source) && locks.get(source).isLocked();
  }

  private interface Work {
    boolean done();
  }

  /** Skips it where the feed is being looked at already: that look finds the same. */
  private boolean alone(String source, Work work) {
    if (!isReady) {
      return true;
    }
    var lock = locks.computeIfAbsent(source, _ -> new ReentrantLock());
    if (!lock.tryLock()) {
      return false;
    }
    try {
      takeUp(source);
      return work.done();
    } catch (RuntimeException e) {
      LOG.error("Feed {} could not be looked at; this is tried again", source, e);
      return true;
    } finally {
      lock.unlock();
    }
  }

  private static void delete(Path file) {
    try {
      if (file != null) {
        Files.deleteIfExists(file);
      }
    } catch (IOException e) {
      LOG.warn("{} could not be deleted: {}", file, e.getMessage());
    }
  }

  private static Refusal nothing(Feed feed) {
    return Refusal.conflict(
        new Problem(
            "feed-empty",
            "%s has nothing to be read now.".formatted(feed.source()),
            "No file is there, or none of the names that are taken.",
            "Have a delivery made, and test again.",
            null));
  }

  private static Problem late(String source, String expected) {
    return new Problem(
        "feed-late",
        "The delivery of %s expected on %s has not come.".formatted(source, expected),
        "Nobody is taken for a leaver because of it; joiners and leavers wait.",
        "Ask whoever sends it.",
        null);
  }

  private static Problem brokeOff(String source) {
    return new Problem(
        "feed-run-broke-off",
        "The service stopped while it looked at %s.".formatted(source),
        "Nothing of the delivery was read yet.",
        "It is looked at again by itself.",
        null);
  }

  private static Problem fault(String name) {
    return new Problem(
        "import-broke",
        "Reading %s broke off.".formatted(name),
        "Ebb met a fault of its own; it stands in the service's log. Nothing was let through.",
        "Send the log to whoever looks after Ebb.",
        null);
  }

  private static Problem disk(IOException e) {
    return new Problem(
        "feed-disk",
        "The delivery cannot be kept.",
        e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage(),
        "Look whether the disk of the service is full.",
        null);
  }
}
