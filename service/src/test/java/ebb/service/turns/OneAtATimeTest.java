package ebb.service.turns;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import ebb.store.Database;
import ebb.store.turns.Turns;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.testng.annotations.Test;

/** Of some work only one goes on; two of these stand for two processes. */
public class OneAtATimeTest {
  private final OneAtATime here =
      new OneAtATime(InProcess.bean(Database.class), InProcess.bean(Turns.class));
  private final OneAtATime there =
      new OneAtATime(InProcess.bean(Database.class), InProcess.bean(Turns.class));

  @Test
  public void howeverManyWantATurnOneHasIt() throws Exception {
    var atWork = new AtomicInteger();
    var done = new AtomicInteger();
    var all = new ArrayList<Callable<Integer>>();
    for (int i = 0; i < 12; i++) {
      var process = i % 2 == 0 ? here : there;
      all.add(
          () ->
              process.alone(
                  "many",
                  "one of many",
                  _ -> {},
                  () -> {
                    assertThat(atWork.incrementAndGet()).isEqualTo(1);
                    Thread.sleep(5);
                    atWork.decrementAndGet();
                    return done.incrementAndGet();
                  }));
    }
    try (var threads = Executors.newFixedThreadPool(12)) {
      for (var one : threads.invokeAll(all)) {
        one.get();
      }
    }
    assertThat(done).hasValue(12);
  }

  @Test
  public void whoeverWaitsIsToldForWhatAndOthersDoNotWait() throws Exception {
    var told = new CopyOnWriteArrayList<String>();
    var began = new CountDownLatch(1);
    try (var threads = Executors.newFixedThreadPool(1)) {
      var waiting =
          here.alone(
              "told",
              "the first",
              _ -> {},
              () -> {
                var second =
                    threads.submit(
                        () ->
                            there.alone(
                                "told",
                                "the second",
                                other -> {
                                  told.add(String.valueOf(other));
                                  began.countDown();
                                },
                                () -> "done"));
                began.await();
                assertThat(here.alone("another name", "the third", _ -> {}, () -> 3)).isEqualTo(3);
                assertThat(second.isDone()).isFalse();
                return second;
              });
      assertThat(waiting.get()).isEqualTo("done");
    }
    assertThat(told).containsExactly("the first", "null");
  }

  @Test
  public void workThatFailsLeavesItsTurnToTheNext() {
    var failure = new IllegalStateException("a trial");
    try {
      here.alone(
          "failing",
          "the first",
          _ -> {},
          () -> {
            throw failure;
          });
    } catch (IllegalStateException e) {
      assertThat(e).isSameAs(failure);
    }
    assertThat(there.alone("failing", "the second", _ -> {}, () -> 2)).isEqualTo(2);
  }

  @Test
  public void theTurnOfAProcessThatDiedIsTakenOnceItsLeaseIsOver() {
    var database = InProcess.bean(Database.class);
    var turns = InProcess.bean(Turns.class);
    var now = Instant.now();
    database.writeAll(
        session -> turns.take(session, "dead", "gone", "the first", now, now.plusSeconds(60)));

    assertThat(take(now.plusSeconds(59))).contains("the first");
    assertThat(take(now.plusSeconds(61))).isEmpty();
    assertThat(
            database.<Integer>write(
                session -> turns.keep(session, List.of("gone"), now.plus(Duration.ofDays(1)))))
        .as("whose turn it was holds nothing any more")
        .isZero();
  }

  private static Optional<String> take(Instant at) {
    return InProcess.bean(Database.class)
        .write(
            session ->
                InProcess.bean(Turns.class)
                    .take(session, "dead", "alive", "the second", at, at.plusSeconds(60)));
  }
}
