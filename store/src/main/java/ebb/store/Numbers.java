package ebb.store;

import java.sql.Connection;
import java.sql.SQLException;
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
    return session.doReturningWork(connection -> take(connection, sequence, count));
  }

  /** By hand: binding each number costs more than drawing it. */
  private static Deque<Long> take(Connection connection, String sequence, int count)
      throws SQLException {
    var numbers = new ArrayDeque<Long>(count);
    try (var query =
        connection.prepareStatement(
            "select next value for " + sequence + " from system_range(1, ?)")) {
      query.setInt(1, count);
      try (var rows = query.executeQuery()) {
        while (rows.next()) {
          numbers.add(rows.getLong(1));
        }
      }
    }
    return numbers;
  }

  private Numbers() {}
}
