package ebb.store.changes;

import ebb.store.Database;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Whether anything of an application could be claimed. Nothing gets due but by a write, in this
 * process or another, and by the time: where many applications are idle, hardly anything is asked.
 */
public final class DueLooks {
  /** What gets due by the time, or by another process, is found so soon. */
  static final Duration AGAIN = Duration.ofSeconds(1);

  private final Database database;
  private final ChangeQueue queue;
  private final Map<Line, Empty> empty = new ConcurrentHashMap<>();

  private record Line(String application, boolean urgent) {}

  /** A look that found nothing, and the writes before it. */
  private record Empty(long writes, Instant at) {
    /** Also where somebody put the machine's clock back. */
    boolean holds(long writesNow, Instant now) {
      return writes == writesNow && !now.isBefore(at) && now.isBefore(at.plus(AGAIN));
    }
  }

  public DueLooks(Database database, ChangeQueue queue) {
    this.database = database;
    this.queue = queue;
  }

  /**
   * @return false also where something got due less than a second ago without a write here
   */
  public boolean isAny(String application, boolean urgent, Instant now) {
    var line = new Line(application, urgent);
    var writes = database.writes();
    var last = empty.get(line);
    if (last != null && last.holds(writes, now)) {
      return false;
    }
    var isAny = database.read(session -> queue.isAnyDue(session, application, urgent, now));
    if (isAny) {
      empty.remove(line);
    } else {
      empty.put(line, new Empty(writes, now));
    }
    return isAny;
  }
}
