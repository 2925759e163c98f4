package ebb.store;

import java.util.ArrayDeque;
import java.util.Iterator;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executors;
import java.util.function.Consumer;
import java.util.function.Function;

/** Looks up what the next parts of long work need, while the work on those before them goes on. */
public final class Ahead {
  private static final int AT_ONCE = 2;

  /**
   * Works on one part after the other, in their order, on the caller's thread.
   *
   * @param parts asked for on the caller's thread, some ahead of the work
   * @param lookUp may run for several parts at once, on other threads
   * @throws java.util.concurrent.CompletionException if something could not be looked up
   */
  public static <P, T> void inOrder(Iterator<P> parts, Function<P, T> lookUp, Consumer<T> work) {
    try (var threads = Executors.newFixedThreadPool(AT_ONCE)) {
      var coming = new ArrayDeque<CompletableFuture<T>>();
      while (parts.hasNext() || !coming.isEmpty()) {
        while (coming.size() <= AT_ONCE && parts.hasNext()) {
          var part = parts.next();
          coming.add(CompletableFuture.supplyAsync(() -> lookUp.apply(part), threads));
        }
        work.accept(coming.remove().join());
      }
    }
  }

  private Ahead() {}
}
