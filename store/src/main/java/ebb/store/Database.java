package ebb.store;

import jakarta.persistence.LockTimeoutException;
import jakarta.persistence.PersistenceException;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Function;
import javax.sql.DataSource;
import org.hibernate.SessionFactory;
import org.hibernate.StatelessSession;
import org.hibernate.cfg.AvailableSettings;
import org.hibernate.cfg.Configuration;
import org.hibernate.exception.LockAcquisitionException;

/**
 * The database through Hibernate, on stateless sessions. Transactions are short and explicit: no
 * call to an application is ever made inside one.
 */
public final class Database implements AutoCloseable {
  /** Rows sent to the database at once. */
  private static final int BATCH = 500;

  /** Lock timeouts and deadlocks are found within seconds, and hardly ever twice in a row. */
  private static final int TRIES = 5;

  private final SessionFactory sessions;
  private final GroupCommit commits;
  private final AtomicLong writes = new AtomicLong();

  private Database(SessionFactory sessions, GroupCommit commits) {
    this.sessions = sessions;
    this.commits = commits;
  }

  /**
   * Opens a database whose schema is in place already.
   *
   * @param entities all entity classes of the features
   */
  public static Database open(DataSource dataSource, Class<?>... entities) {
    var configuration = new Configuration();
    configuration.getProperties().put(AvailableSettings.JAKARTA_NON_JTA_DATASOURCE, dataSource);
    configuration.setProperty(AvailableSettings.JDBC_TIME_ZONE, "UTC");
    configuration.setProperty(AvailableSettings.STATEMENT_BATCH_SIZE, BATCH);
    configuration.setProperty(AvailableSettings.ORDER_INSERTS, true);
    // A list of another length is another statement: few lengths are few statements.
    configuration.setProperty(AvailableSettings.IN_CLAUSE_PARAMETER_PADDING, true);
    for (var entity : entities) {
      configuration.addAnnotatedClass(entity);
    }
    return new Database(configuration.buildSessionFactory(), new GroupCommit(dataSource));
  }

  /** Reads in a transaction of its own. */
  public <T> T read(Function<StatelessSession, T> work) {
    return inTransaction(work);
  }

  /**
   * Writes in a transaction of its own. When this returns, what was written is on the disk. Work
   * that met a lock or a deadlock is done again from its start, so it must have no other effects.
   */
  public <T> T write(Function<StatelessSession, T> work) {
    T result = retrying(work);
    commits.sync();
    return result;
  }

  /**
   * Writes in a transaction of its own that a crash may still take back: for parts of work that is
   * begun anew after one. The next {@link #write} brings all of them onto the disk.
   */
  public void writeForNow(Consumer<StatelessSession> work) {
    retrying(
        session -> {
          work.accept(session);
          return null;
        });
  }

  /**
   * Transactions that have written here: while this stays the same, none has. What other processes
   * write is not counted.
   */
  public long writes() {
    return writes.get();
  }

  public void writeAll(Consumer<StatelessSession> work) {
    write(
        session -> {
          work.accept(session);
          return null;
        });
  }

  private <T> T retrying(Function<StatelessSession, T> work) {
    for (int attempt = 1; ; attempt++) {
      try {
        var result = inTransaction(work);
        writes.incrementAndGet();
        return result;
      } catch (PersistenceException e) {
        if (attempt == TRIES || !isPassing(e)) {
          throw e;
        }
      }
    }
  }

  private <T> T inTransaction(Function<StatelessSession, T> work) {
    try (var session = sessions.openStatelessSession()) {
      var transaction = session.beginTransaction();
      try {
        var result = work.apply(session);
        transaction.commit();
        return result;
      } catch (RuntimeException e) {
        if (transaction.isActive()) {
          transaction.rollback();
        }
        throw e;
      }
    }
  }

  private static boolean isPassing(Throwable e) {
    for (var cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof LockTimeoutException
          || cause instanceof LockAcquisitionException
          || (cause instanceof SQLException sql
              && ("40001".equals(sql.getSQLState()) || "HYT00".equals(sql.getSQLState())))) {
        return true;
      }
    }
    return false;
  }

  @Override
  public void close() {
    sessions.close();
  }
}
