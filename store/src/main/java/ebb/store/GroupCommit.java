package ebb.store;

import java.sql.SQLException;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import javax.sql.DataSource;

/**
 * Makes commits durable, many at once. H2 answers a commit before it is on the disk (its write
 * delay); a caller here returns only after a CHECKPOINT SYNC that began after its commit. One
 * caller does it for all that wait meanwhile.
 */
final class GroupCommit {
  private final DataSource dataSource;
  private final ReentrantLock lock = new ReentrantLock();
  private final Condition synced = lock.newCondition();
  private boolean running;
  private long begun;
  private long finished;

  GroupCommit(DataSource dataSource) {
    this.dataSource = dataSource;
  }

  /** Returns once all that this thread committed is on the disk. */
  void sync() {
    lock.lock();
    try {
      // A checkpoint that is running may have begun before our commit: only the next one counts.
      long wanted = begun + 1;
      while (finished < wanted) {
        if (running) {
          synced.awaitUninterruptibly();
        } else {
          lead();
        }
      }
    } finally {
      lock.unlock();
    }
  }

  private void lead() {
    running = true;
    long mine = ++begun;
    lock.unlock();
    boolean done = false;
    try {
      checkpoint();
      done = true;
    } finally {
      lock.lock();
      running = false;
      if (done) {
        finished = mine;
      }
      synced.signalAll();
    }
  }

  private void checkpoint() {
    try (var connection = dataSource.getConnection();
        var statement = connection.createStatement()) {
      statement.execute("CHECKPOINT SYNC");
    } catch (SQLException e) {
      throw new IllegalStateException("The database could not be brought to the disk", e);
    }
  }
}
