package ebb.service.changes;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.change.ChangeSet;
import ebb.core.problem.Refusal;
import ebb.service.InProcess;
import ebb.service.Joiners;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import org.testng.annotations.Test;

/** A set is taken back by one other at a time. */
public class TakeBacksTest {
  private static final int ROUNDS = 5;

  private long released() throws Exception {
    var person = Joiners.join("title=Mate");
    var set =
        InProcess.client().json("people", "edit", person.toString(), "title=Bosun").path("id");
    InProcess.release(set.asString());
    return set.asLong();
  }

  @Test
  public void twoWhoTakeASetBackAtOnceMakeOneSetOfIt() throws Exception {
    var takeBacks = InProcess.bean(TakeBacks.class);
    for (int i = 0; i < ROUNDS; i++) {
      var set = released();
      var together = new CyclicBarrier(2);
      Callable<ChangeSet> one =
          () -> {
            together.await();
            return takeBacks.takeBack(set, "a trial");
          };
      var made = new ArrayList<ChangeSet>();
      var refused = new ArrayList<String>();
      try (var threads = Executors.newFixedThreadPool(2)) {
        for (var done : threads.invokeAll(List.of(one, one))) {
          try {
            made.add(done.get());
          } catch (ExecutionException e) {
            refused.add(((Refusal) e.getCause()).problems().getFirst().code());
          }
        }
      }
      assertThat(made).hasSize(1);
      assertThat(refused).containsExactly("taken-back-already");
    }
  }

  @Test
  public void whoGaveUpTakingASetBackMayTakeItBackAfterAll() throws Exception {
    var set = Long.toString(released());
    var first = InProcess.client().json("changes", "take-back", set).path("id").asString();
    assertThat(InProcess.client().run("changes", "take-back", set).err())
        .contains("Change set %s shows what taking %s back would do".formatted(first, set));

    InProcess.client().done("changes", "discard", first);
    var second = InProcess.client().json("changes", "take-back", set).path("id").asString();
    InProcess.release(second);

    assertThat(InProcess.client().run("changes", "take-back", set).err())
        .contains("Change set %s was taken back by %s".formatted(set, second));
  }
}
