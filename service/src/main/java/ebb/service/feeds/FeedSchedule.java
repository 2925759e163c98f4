package ebb.service.feeds;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.jdbc.DefaultJdbcCustomization;
import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.service.push.Pushed;
import ebb.service.push.PushedPuller;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.feeds.Feeds;
import ebb.store.push.Resources;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import org.hibernate.StatelessSession;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Keeps feeds to their timetables, and has deliveries made of what is pushed. Times are business
 * times, so that the demo's clock moves them; the scheduler keeps them in the database, and one
 * process alone gets each.
 */
@Component
final class FeedSchedule implements RunningWork {
  private static final String TASK = "feed";
  private static final String PUSHED = "pushed";

  /** What is pushed one by one comes in as one delivery: once it is quiet, and in any case then. */
  private static final Duration QUIET = Duration.ofSeconds(1);

  private static final Duration LONGEST_WAIT = Duration.ofSeconds(10);
  private static final Duration BLACKOUT_LOOKS = Duration.ofHours(1);

  private static final int AT_ONCE = 4;
  private static final Duration LOOK_EVERY = Duration.ofSeconds(1);

  /** What fails in passing is tried again after these, and then at its next time. */
  private static final int MOST_RETRIES = 3;

  private static final Duration FIRST_RETRY = Duration.ofMinutes(1);
  private static final int LONGER_EACH_TIME = 5;

  private final Database database;
  private final BusinessClock clock;
  private final Feeds feeds;
  private final FeedTimes times;
  private final FeedRunner runner;
  private final PushedPuller pushed;
  private final CustomTask<Void> task;
  private final CustomTask<Void> pushes;
  private final Scheduler scheduler;
  private final Map<String, Integer> retries = new ConcurrentHashMap<>();

  FeedSchedule(
      DataSource dataSource,
      Database database,
      BusinessClock clock,
      Feeds feeds,
      FeedTimes times,
      FeedRunner runner,
      PushedPuller pushed) {
    this.database = database;
    this.clock = clock;
    this.feeds = feeds;
    this.times = times;
    this.runner = runner;
    this.pushed = pushed;
    this.task =
        Tasks.custom(TASK, Void.class)
            .onDeadExecutionRevive()
            .execute(
                (instance, context) ->
                    look(instance.getId(), context.getExecution().executionTime));
    this.pushes =
        Tasks.custom(PUSHED, Void.class)
            .onDeadExecutionRevive()
            .execute((instance, _) -> deliver(instance.getId()));
    this.scheduler =
        Scheduler.create(dataSource, task, pushes)
            .jdbcCustomization(new DefaultJdbcCustomization(false))
            .clock(clock::instant)
            .threads(AT_ONCE)
            .pollingInterval(LOOK_EVERY)
            .build();
  }

  @EventListener(ApplicationReadyEvent.class)
  void start() {
    scheduler.start();
    database.read(feeds::list).forEach(this::putPushed);
  }

  @PreDestroy
  void stop() {
    scheduler.stop();
  }

  /** What was pushed and is not delivered yet, but for what waits to be tried again. */
  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of(
        "pushed deliveries", feeds.countScheduled(session, PUSHED, clock.instant().plus(QUIET)));
  }

  /** When a feed is looked at next; empty where it is not. */
  Optional<Instant> next(String source) {
    return scheduler
        .getScheduledExecution(TaskInstanceId.of(TASK, source))
        .map(execution -> execution.getExecutionTime());
  }

  /** Puts a feed that was edited, switched on or paused to its right time. */
  void put(Feed feed) {
    var id = TaskInstanceId.of(TASK, feed.source());
    if (scheduler.getScheduledExecution(id).isPresent()) {
      scheduler.cancel(id);
    }
    if (feed.state() == Feed.State.ON) {
      times
          .nextLook(feed, clock.instant())
          .ifPresent(at -> scheduler.scheduleIfNotExists(task.instance(feed.source()), at));
      putPushed(feed);
    }
  }

  private void putPushed(Feed feed) {
    if (feed.origin().kind() == Origin.Kind.PUSH) {
      came(new Pushed(feed.source()));
    }
  }

  /** Has a delivery made soon. One process alone makes it, and a restart does not forget it. */
  @EventListener
  void came(Pushed news) {
    scheduler.scheduleIfNotExists(pushes.instance(news.source()), clock.instant().plus(QUIET));
  }

  private CompletionHandler<Void> deliver(String source) {
    var feed =
        database
            .read(session -> feeds.get(session, source))
            .filter(one -> one.state() == Feed.State.ON);
    var waiting = feed.flatMap(_ -> waiting(source));
    if (waiting.isEmpty()) {
      return remove(source, feed.isPresent() ? 0 : Long.MAX_VALUE);
    }
    if (times.isBlackout(feed.get())) {
      return later(BLACKOUT_LOOKS);
    }
    if (isYetToBeQuiet(waiting.get()) || runner.isLookedAt(source)) {
      return later(QUIET);
    }
    return runner.pull(source, FeedRunner.Why.DELIVERY)
        ? later(FIRST_RETRY)
        : remove(source, waiting.get().last());
  }

  private CompletionHandler<Void> later(Duration wait) {
    return (complete, operations) -> operations.reschedule(complete, clock.instant().plus(wait));
  }

  /** What came meanwhile found this one still there, and set up none of its own. */
  private CompletionHandler<Void> remove(String source, long done) {
    return (_, operations) -> {
      operations.remove();
      if (waiting(source).filter(waiting -> waiting.last() > done).isPresent()) {
        came(new Pushed(source));
      }
    };
  }

  private Optional<Resources.Waiting> waiting(String source) {
    return database.read(
        session -> pushed.waiting(session, source, feeds.mark(session, source).orElse(null)));
  }

  private static boolean isYetToBeQuiet(Resources.Waiting waiting) {
    var now = Instant.now();
    return now.isBefore(waiting.lastAt().plus(QUIET))
        && now.isBefore(waiting.firstAt().plus(LONGEST_WAIT));
  }

  private CompletionHandler<Void> look(String source, Instant due) {
    var feed = database.read(session -> feeds.get(session, source));
    if (feed.isEmpty() || feed.get().state() != Feed.State.ON) {
      return (_, operations) -> operations.remove();
    }
    var again = look(feed.get(), due);
    var next = again ? retry(source) : Optional.<Instant>empty();
    if (next.isEmpty()) {
      retries.remove(source);
    }
    var at = next.or(() -> times.nextLook(feed.get(), clock.instant()));
    return (complete, operations) ->
        at.ifPresentOrElse(
            time -> operations.reschedule(complete, time), () -> operations.remove());
  }

  /** Whether trying again in a moment may help. */
  private boolean look(Feed feed, Instant due) {
    if (feed.origin().kind().isPulled()) {
      return runner.pull(feed.source(), FeedRunner.Why.TIMETABLE);
    }
    var last = times.lastLook(feed, due, clock.instant());
    var from = times.countsFrom(feed, last);
    if (!database.read(session -> feeds.hasCome(session, feed.source(), from))) {
      runner.late(feed, last.minus(feed.timetable().grace()));
    }
    return false;
  }

  private Optional<Instant> retry(String source) {
    var count = retries.merge(source, 1, Integer::sum);
    if (count > MOST_RETRIES) {
      return Optional.empty();
    }
    var wait = FIRST_RETRY;
    for (int i = 1; i < count; i++) {
      wait = wait.multipliedBy(LONGER_EACH_TIME);
    }
    return Optional.of(clock.instant().plus(wait));
  }
}
