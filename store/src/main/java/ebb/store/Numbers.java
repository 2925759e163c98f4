package ebb.store;

import java.util.ArrayDeque;
import java.util.Deque;
import org.hibernate.StatelessSession;

/** Numbers for new records, drawn from the database's sequences. */
public final class Numbers {
  /** The next number. */
  public static long next(StatelessSession session, String sequence) {
    return take(session, sequence, 1).pop();
  }

  /** As many numbers as asked for, ascending. */
  public static Deque<Long> take(StatelessSession session, String sequence, int count) {
    return count == 0
        ? new ArrayDeque<>()
        : new ArrayDeque<>(
            session
                .createNativeQuery(
                    "select next value for " + sequence + " from system_range(1, :count)",
                    Long.class)
                .setParameter("count", count)
                .getResultList());
  }

  private Numbers() {}
}
