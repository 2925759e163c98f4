package ebb.standins;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.function.Predicate;

/** Faults that were ordered and not met yet. */
public final class Faults {
  /** A way to fail. */
  public enum Kind {
    /** Answers 503 and does nothing. */
    UNAVAILABLE,
    /** Answers 429 with Retry-After: 1 and does nothing. */
    TOO_MANY,
    /** Does what was asked, then cuts the connection before the answer. */
    CUT_AFTER_WRITE,
    /** Answers with a page of HTML and does nothing. */
    HTML,
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

  /** Takes the oldest fault that fits; null if there is none. */
  synchronized Kind take(String methodAndPath, Predicate<Kind> fits) {
    for (var it = ordered.iterator(); it.hasNext(); ) {
      var next = it.next();
      if (fits.test(next.kind()) && methodAndPath.contains(next.pathPart())) {
        it.remove();
        return next.kind();
      }
    }
    return null;
  }
}
