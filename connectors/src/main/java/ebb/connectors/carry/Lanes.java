package ebb.connectors.carry;

import ebb.core.application.Carrier.Carried;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.ArrayDeque;
import java.util.List;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Predicate;
import java.util.stream.IntStream;

/** Carries items side by side: a server writes one to the disk while it reads another. */
public final class Lanes {
  /** Carries one item after the other. */
  public interface Lane extends AutoCloseable {
    Carried carry(Item item) throws Unreachable;

    @Override
    default void close() {}
  }

  /** Opens what a lane needs of its own. */
  public interface Opening {
    Lane open() throws Unreachable;
  }

  private final Queue<Item> waiting;
  private final Opening opening;
  private final Predicate<Carried> each;
  private boolean isToEnd;

  private Lanes(List<Item> items, Opening opening, Predicate<Carried> each) {
    this.waiting = new ArrayDeque<>(items);
    this.opening = opening;
    this.each = each;
  }

  /**
   * @param lanes at most
   * @param each told of each item, by one thread at a time; says whether to go on
   * @throws Unreachable if one of them cannot go on; the others end the item they are at
   */
  public static void carry(int lanes, List<Item> items, Opening opening, Predicate<Carried> each)
      throws Unreachable {
    var all = new Lanes(items, opening, each);
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      var running =
          IntStream.range(0, Math.min(lanes, items.size()))
              .mapToObj(_ -> threads.submit(all::go))
              .toList();
      for (var lane : running) {
        all.await(lane);
      }
    }
  }

  private Void go() throws Unreachable {
    try (var lane = opening.open()) {
      for (var item = next(); item.isPresent(); item = next()) {
        tell(lane.carry(item.get()));
      }
      return null;
    } finally {
      end();
    }
  }

  private synchronized Optional<Item> next() {
    return isToEnd ? Optional.empty() : Optional.ofNullable(waiting.poll());
  }

  private synchronized void tell(Carried carried) {
    if (!each.test(carried)) {
      isToEnd = true;
    }
  }

  /** A lane that ends, for whatever reason, leaves nothing that another could end as well. */
  private synchronized void end() {
    isToEnd = true;
  }

  private void await(Future<?> lane) throws Unreachable {
    try {
      lane.get();
    } catch (ExecutionException e) {
      end();
      switch (e.getCause()) {
        case Unreachable unreachable -> throw unreachable;
        case RuntimeException unforeseen -> throw unforeseen;
        default -> throw new IllegalStateException(e.getCause());
      }
    } catch (InterruptedException e) {
      end();
      Thread.currentThread().interrupt();
      throw new Unreachable(brokenOff(), e);
    }
  }

  private static Problem brokenOff() {
    return new Problem(
        "handover-broken-off",
        "Carrying was broken off.",
        "Ebb is being stopped.",
        "Nothing need be done: it goes on when Ebb is there again.",
        null);
  }
}
