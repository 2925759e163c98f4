package ebb.standins;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Set;

/** Faults that were ordered and not met yet. */
public final class Faults {
  /** A way to fail. */
  public enum Kind {
    /** Answers 503 and does nothing. */
    UNAVAILABLE,
    /** Answers 503 with Retry-After in seconds and does nothing. */
    BUSY_FOR_A_SECOND,
    /** Answers 503 with Retry-After as a date, two seconds ahead, and does nothing. */
    BUSY_UNTIL,
    /** Answers 429 with Retry-After: 1 and does nothing. */
    TOO_MANY,
    /** Answers 401 and does nothing, as if a token had expired. */
    TOKEN_EXPIRED,
    /** Answers 403 and does nothing: this will not be done. */
    FORBIDDEN,
    /** Cuts the connection and does nothing. */
    CUT_BEFORE_WRITE,
    /** Does what was asked, then cuts the connection before the answer. */
    CUT_AFTER_WRITE,
    /** Does what was asked, then says that something went wrong. */
    FAILS_AFTER_WRITE,
    /** Does what was asked, then sends half of its answer. */
    TRUNCATED,
    /** Does what was asked, and keeps the answer to itself. */
    HANG,
    /** Answers with a page of HTML and does nothing. */
    HTML,
    /** Answers with a version that nothing has. */
    WRONG_VERSION,
    /** Sends the first page of a list again where the next was asked for. */
    PAGE_REPEATS,
    /** A transfer loses one item on the way and says it is done. */
    LOSE_ONE_ITEM
  }

  private record Ordered(Kind kind, String pathPart) {}

  private final Deque<Ordered> ordered = new ArrayDeque<>();

  /**
   * Orders a fault for the next request whose method and path hold a text.
   *
   * @param pathPart as in "POST /scim/v2/Users"
   */
  public synchronized void order(Kind kind, String pathPart, int times) {
    for (int i = 0; i < times; i++) {
      ordered.add(new Ordered(kind, pathPart));
    }
  }

  public synchronized void clear() {
    ordered.clear();
  }

  /** Takes the oldest fault of these kinds that fits; null if there is none. */
  synchronized Kind take(String methodAndPath, Set<Kind> kinds) {
    for (var it = ordered.iterator(); it.hasNext(); ) {
      var next = it.next();
      if (kinds.contains(next.kind()) && methodAndPath.contains(next.pathPart())) {
        it.remove();
        return next.kind();
      }
    }
    return null;
  }
}
