package ebb.store;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/**
 * Keeps one part of long work while the next is computed: the one waits for the disk, the other
 * does not. For one thread.
 */
public final class Keeper implements AutoCloseable {
  private final ExecutorService thread = Executors.newSingleThreadExecutor();
  private CompletableFuture<Void> keeping = CompletableFuture.completedFuture(null);

  /**
   * Keeps a part once the one before it is kept.
   *
   * @throws java.util.concurrent.CompletionException if the one before could not be
   */
  public void keep(Runnable part) {
    keeping.join();
    keeping = CompletableFuture.runAsync(part, thread);
  }

  /** Waits until all is kept, and says if it could not be. */
  public void finish() {
    keeping.join();
  }

  @Override
  public void close() {
    thread.close();
  }
}
