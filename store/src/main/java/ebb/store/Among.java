package ebb.store;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.List;
import org.hibernate.StatelessSession;

/**
 * Asks about many numbers with statements that are always the same: a list of another length is
 * another statement, and making one costs more than carrying it out.
 */
public final class Among {
  private static final int AT_ONCE = 50;
  private static final String LIST = "?" + ", ?".repeat(AT_ONCE - 1);

  /** Takes one row. */
  public interface Reader {
    void read(ResultSet row) throws SQLException;
  }

  /**
   * Reads rows one by one, in no particular order.
   *
   * @param sql with %s where the list of numbers belongs
   * @param numbers each once; none gives no rows
   */
  public static void each(
      StatelessSession session, String sql, Collection<Long> numbers, Reader reader) {
    if (numbers.isEmpty()) {
      return;
    }
    session.doWork(
        connection -> {
          var all = List.copyOf(numbers);
          try (var query = connection.prepareStatement(sql.formatted(LIST))) {
            for (int from = 0; from < all.size(); from += AT_ONCE) {
              fill(query, all, from);
              try (var rows = query.executeQuery()) {
                while (rows.next()) {
                  reader.read(rows);
                }
              }
            }
          }
        });
  }

  /** The last one is repeated where the list is longer than what is left. */
  private static void fill(PreparedStatement query, List<Long> all, int from) throws SQLException {
    for (int i = 0; i < AT_ONCE; i++) {
      query.setLong(i + 1, all.get(Math.min(from + i, all.size() - 1)));
    }
  }

  private Among() {}
}
