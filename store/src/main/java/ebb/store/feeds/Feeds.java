package ebb.store.feeds;

import ebb.core.feed.Feed;
import ebb.core.feed.FeedRun;
import ebb.core.feed.Origin;
import ebb.core.feed.Timetable;
import ebb.core.imports.Missing;
import ebb.core.problem.Problem;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Feeds, what is known of each besides, and what each look for a delivery found. */
public final class Feeds {
  public static final List<Class<?>> ENTITIES = List.of(FeedEntity.class, FeedRunEntity.class);

  public Optional<Feed> get(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source)).map(Feeds::feed);
  }

  /** In the order of their sources. */
  public List<Feed> list(StatelessSession session) {
    return session
        .createSelectionQuery("from FeedEntity order by source", FeedEntity.class)
        .stream()
        .map(Feeds::feed)
        .toList();
  }

  /**
   * Keeps a feed under the next version.
   *
   * @param secret encrypted; null keeps the one there is
   */
  public void put(StatelessSession session, Feed feed, String secret) {
    var row =
        Optional.ofNullable(session.get(FeedEntity.class, feed.source()))
            .orElseGet(FeedEntity::new);
    var origin = Json.write(feed.origin());
    if (row.origin != null && !row.origin.equals(origin)) {
      // What another place said of its last delivery means nothing here.
      row.mark = null;
    }
    row.source = feed.source();
    row.origin = origin;
    row.timetable = Json.write(feed.timetable());
    row.complete = feed.complete();
    row.missing = feed.missing().name();
    row.state = feed.state().name();
    row.secret = secret == null ? row.secret : secret;
    row.version = feed.version() + 1;
    session.upsert(row);
  }

  /** The secret as it is kept, encrypted; empty if the feed has none. */
  public Optional<String> secret(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source)).map(row -> row.secret);
  }

  /**
   * Gives a feed the token by which its sender shows who it is; the one before ends.
   *
   * @param hash of the token
   */
  public void putToken(StatelessSession session, String source, String hash) {
    session
        .createMutationQuery("update FeedEntity set token = :token where source = :source")
        .setParameter("token", hash)
        .setParameter("source", source)
        .executeUpdate();
  }

  public boolean hasToken(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source))
        .filter(row -> row.token != null)
        .isPresent();
  }

  /** The feed whose sender has a token. */
  public Optional<Feed> ofToken(StatelessSession session, String hash) {
    return session
        .createSelectionQuery("from FeedEntity where token = :token", FeedEntity.class)
        .setParameter("token", hash)
        .uniqueResultOptional()
        .map(Feeds::feed);
  }

  /** What the other side said of the last delivery; empty if there was none. */
  public Optional<String> mark(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source)).map(row -> row.mark);
  }

  public void putMark(StatelessSession session, String source, String mark) {
    session
        .createMutationQuery("update FeedEntity set mark = :mark where source = :source")
        .setParameter("mark", mark)
        .setParameter("source", source)
        .executeUpdate();
  }

  /** The import by which a feed was last tried out; empty if it was not. */
  public Optional<Long> tried(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source)).map(row -> row.triedImportId);
  }

  /**
   * @param made null where nothing is being tried out any more
   */
  public void putTried(StatelessSession session, String source, Long made) {
    session
        .createMutationQuery("update FeedEntity set triedImportId = :made where source = :source")
        .setParameter("made", made)
        .setParameter("source", source)
        .executeUpdate();
  }

  /** What is amiss with a feed. */
  public record Trouble(Problem problem, Instant since) {}

  public Optional<Trouble> trouble(StatelessSession session, String source) {
    return Optional.ofNullable(session.get(FeedEntity.class, source))
        .filter(row -> row.problem != null)
        .map(row -> new Trouble(Json.read(row.problem, Problem.class), row.problemSince));
  }

  /**
   * Notes what is amiss; since when stays as it is while the problem is of the same kind.
   *
   * @param problem null if it is well
   * @return whether that is news
   */
  public boolean note(StatelessSession session, String source, Problem problem, Instant at) {
    var row = session.get(FeedEntity.class, source);
    var before = row == null ? null : Json.read(row.problem, Problem.class);
    var isNews =
        problem == null ? before != null : before == null || !before.code().equals(problem.code());
    session
        .createMutationQuery(
            "update FeedEntity set problem = :problem"
                + ", problemSince = :since where source = :source")
        .setParameter("problem", Json.write(problem))
        .setParameter("since", isNews || row == null ? at : row.problemSince)
        .setParameter("source", source)
        .executeUpdate();
    return isNews;
  }

  public long number(StatelessSession session) {
    return Numbers.next(session, "feed_run_seq");
  }

  public void put(StatelessSession session, FeedRun run) {
    var row = new FeedRunEntity();
    row.id = run.id();
    row.source = run.source();
    row.cause = run.cause().name();
    row.outcome = run.outcome().name();
    row.file = run.file();
    row.importId = run.made();
    row.problem = Json.write(run.problem());
    row.createdBy = run.by();
    row.startedAt = run.startedAt();
    row.endedAt = run.endedAt();
    session.upsert(row);
  }

  /** Runs of a feed, newest first. */
  public Page<FeedRun> runs(StatelessSession session, String source, Long before, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from FeedRunEntity where source = :source and id < :before"
                    + " order by source desc, id desc",
                FeedRunEntity.class)
            .setParameter("source", source)
            .setParameter("before", before == null ? Long.MAX_VALUE : before)
            .setMaxResults(limit + 1)
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Feeds::run).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** The last run of a feed; empty if there was none. */
  public Optional<FeedRun> last(StatelessSession session, String source) {
    return runs(session, source, null, 1).items().stream().findFirst();
  }

  /** Runs that a crash broke off. */
  public List<FeedRun> running(StatelessSession session) {
    return session
        .createSelectionQuery(
            "from FeedRunEntity where outcome = 'RUNNING' order by outcome, id",
            FeedRunEntity.class)
        .stream()
        .map(Feeds::run)
        .toList();
  }

  /** Whether a delivery came after an instant. */
  public boolean hasCome(StatelessSession session, String source, Instant after) {
    return session
        .createSelectionQuery(
            "from FeedRunEntity where source = :source and endedAt > :after order by id desc",
            FeedRunEntity.class)
        .setParameter("source", source)
        .setParameter("after", after)
        .setMaxResults(100)
        .stream()
        .anyMatch(row -> FeedRun.Outcome.valueOf(row.outcome).isDelivery());
  }

  /** How many executions of a task of the timetable are due until an instant, or in progress. */
  public long countScheduled(StatelessSession session, String task, Instant until) {
    return session
        .createNativeQuery(
            "select count(*) from scheduled_tasks where task_name = :task"
                + " and (picked or execution_time <= :until)",
            Long.class)
        .setParameter("task", task)
        .setParameter("until", until)
        .getSingleResult();
  }

  /** Lets go of what a process that died had picked: for one that is alone on its database. */
  public void letGo(StatelessSession session) {
    session
        .createNativeMutationQuery(
            "update scheduled_tasks set picked = false, picked_by = null, last_heartbeat = null"
                + " where picked")
        .executeUpdate();
  }

  private static Feed feed(FeedEntity row) {
    return new Feed(
        row.source,
        Json.read(row.origin, Origin.class),
        Json.read(row.timetable, Timetable.class),
        row.complete,
        Missing.Decision.valueOf(row.missing),
        Feed.State.valueOf(row.state),
        row.version);
  }

  private static FeedRun run(FeedRunEntity row) {
    return new FeedRun(
        row.id,
        row.source,
        FeedRun.Cause.valueOf(row.cause),
        FeedRun.Outcome.valueOf(row.outcome),
        row.file,
        row.importId,
        Json.read(row.problem, Problem.class),
        row.createdBy,
        row.startedAt,
        row.endedAt);
  }
}
