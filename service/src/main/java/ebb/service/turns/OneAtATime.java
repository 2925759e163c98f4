package ebb.service.turns;

import ebb.store.Database;
import ebb.store.turns.Turns;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import org.hibernate.exception.ConstraintViolationException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Has work wait for other work of the same name, in this process and all others. The lease of a
 * process that has died runs out within a minute.
 */
@Component
public class OneAtATime {
  private static final Logger LOG = LoggerFactory.getLogger(OneAtATime.class);
  private static final Duration LEASE = Duration.ofMinutes(1);
  private static final Duration BETWEEN_TRIES = Duration.ofMillis(100);
  private static final int LEASE_RENEWED_MILLIS = 15_000;

  private final Database database;
  private final Turns turns;
  private final Set<String> held = ConcurrentHashMap.newKeySet();

  OneAtATime(Database database, Turns turns) {
    this.database = database;
    this.turns = turns;
  }

  /** The name of all that reads or writes what a source knows. */
  public static String ofSource(String source) {
    return "source " + source;
  }

  /** What is done in its turn. */
  @FunctionalInterface
  public interface Work<T, E extends Exception> {
    T done() throws E;
  }

  /**
   * Does some work once no other of this name goes on. Not to be called from within such work.
   *
   * @param name of all work of which one may go on
   * @param what this is, as others are told that wait for it
   * @param waiting is told what goes on instead, whenever that is another; and null at the end
   * @throws IllegalStateException if the thread is interrupted while it waits
   */
  public <T, E extends Exception> T alone(
      String name, String what, Consumer<String> waiting, Work<T, E> work) throws E {
    var holder = UUID.randomUUID().toString();
    awaitTurn(name, holder, what, waiting);
    held.add(holder);
    try {
      return work.done();
    } finally {
      held.remove(holder);
      database.writeAll(session -> turns.give(session, holder));
    }
  }

  private void awaitTurn(String name, String holder, String what, Consumer<String> waiting) {
    var other = take(name, holder, what);
    if (other.isEmpty()) {
      return;
    }
    for (String told = null; other.isPresent(); other = take(name, holder, what)) {
      if (!other.get().equals(told)) {
        told = other.get();
        waiting.accept(told);
      }
      try {
        Thread.sleep(BETWEEN_TRIES);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException("%s did not get its turn".formatted(what), e);
      }
    }
    waiting.accept(null);
  }

  /** One after the other here: two who take a turn nobody ever had get in each other's way. */
  private synchronized Optional<String> take(String name, String holder, String what) {
    var now = Instant.now();
    try {
      return database.write(
          session -> turns.take(session, name, holder, what, now, now.plus(LEASE)));
    } catch (ConstraintViolationException _) {
      // Another was first to take a turn that nobody had ever had.
      return Optional.of("other work on " + name);
    }
  }

  @Scheduled(fixedDelay = LEASE_RENEWED_MILLIS)
  void keep() {
    var holders = List.copyOf(held);
    if (holders.isEmpty()) {
      return;
    }
    var until = Instant.now().plus(LEASE);
    try {
      database.writeAll(session -> turns.keep(session, holders, until));
    } catch (RuntimeException e) {
      LOG.error("The turns of what goes on could not be kept; this is tried again", e);
    }
  }
}
