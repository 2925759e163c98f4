package ebb.store;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.Collection;
import org.hibernate.StatelessSession;

/**
 * Carries out one statement for many rows: where there are thousands, binding entities to it costs
 * more than carrying it out.
 */
public final class Batch {
  /** Fills in one row. */
  public interface Binder<T> {
    void bind(PreparedStatement statement, T row) throws SQLException;
  }

  /**
   * @return how many rows of the table each concerned, in the order given; empty for none
   */
  public static <T> int[] execute(
      StatelessSession session, String sql, Collection<T> rows, Binder<T> binder) {
    return session.doReturningWork(
        connection -> {
          try (var statement = connection.prepareStatement(sql)) {
            for (var row : rows) {
              binder.bind(statement, row);
              statement.addBatch();
            }
            return statement.executeBatch();
          }
        });
  }

  private Batch() {}
}
