package ebb.store.applications;

import ebb.core.problem.Problem;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Readings of applications, and the marks from which the next ones go on. */
public final class SyncRuns {
  /** Kept of each application; older ones go as new ones come. */
  private static final int KEPT = 1_000;

  private record Body(SyncRun.Counts counts, Long changeSet, Problem problem) {}

  public SyncRun begin(StatelessSession session, String application, String by, Instant at) {
    var run =
        new SyncRun(
            Numbers.next(session, "sync_run_seq"),
            application,
            by,
            at,
            null,
            true,
            SyncRun.Counts.NONE,
            null,
            null);
    session.insert(row(run));
    return run;
  }

  public void put(StatelessSession session, SyncRun run) {
    session.update(row(run));
  }

  /** Takes away what is too old to be of use. */
  public void prune(StatelessSession session, String application) {
    session
        .createNativeMutationQuery(
            "delete from sync_run where application = :application and id <="
                + " (select id from sync_run where application = :application"
                + " order by id desc limit 1 offset :kept)")
        .setParameter("application", application)
        .setParameter("kept", KEPT)
        .executeUpdate();
  }

  /** Newest first, before the one given. */
  public Page<SyncRun> list(StatelessSession session, String application, Long before, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from SyncRunEntity where application = :application and id < :before"
                    + " order by id desc",
                SyncRunEntity.class)
            .setParameter("application", application)
            .setParameter("before", Objects.requireNonNullElse(before, Long.MAX_VALUE))
            .setMaxResults(limit + 1)
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(SyncRuns::run).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  public Optional<SyncRun> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(SyncRunEntity.class, id)).map(SyncRuns::run);
  }

  /** Those that go on, or did when their process ended. */
  public List<SyncRun> going(StatelessSession session) {
    return session
        .createSelectionQuery("from SyncRunEntity where endedAt is null", SyncRunEntity.class)
        .stream()
        .map(SyncRuns::run)
        .toList();
  }

  /** Null while all of the application has to be read. */
  public String mark(StatelessSession session, String application) {
    return session
        .createNativeQuery(
            "select sync_mark from application where name = :application", String.class)
        .setParameter("application", application)
        .uniqueResult();
  }

  public void keepMark(StatelessSession session, String application, String mark) {
    session
        .createNativeMutationQuery(
            "update application set sync_mark = :mark where name = :application")
        .setParameter("mark", mark)
        .setParameter("application", application)
        .executeUpdate();
  }

  private static SyncRunEntity row(SyncRun run) {
    var row = new SyncRunEntity();
    row.id = run.id();
    row.application = run.application();
    row.begunBy = run.by();
    row.begunAt = run.begunAt();
    row.endedAt = run.endedAt();
    row.whole = run.whole();
    row.body = Json.write(new Body(run.counts(), run.changeSet(), run.problem()));
    return row;
  }

  private static SyncRun run(SyncRunEntity row) {
    var body = Json.read(row.body, Body.class);
    return new SyncRun(
        row.id,
        row.application,
        row.begunBy,
        row.begunAt,
        row.endedAt,
        row.whole,
        body.counts(),
        body.changeSet(),
        body.problem());
  }
}
