package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CountDownLatch;
import java.util.stream.IntStream;
import org.testng.annotations.Test;

public class AheadTest {
  @Test
  public void partsAreWorkedOnInTheirOrderWhicheverIsLookedUpFirst() {
    var second = new CountDownLatch(1);
    var worked = new ArrayList<Integer>();

    Ahead.inOrder(
        IntStream.range(0, 20).iterator(),
        part -> {
          if (part == 0) {
            await(second);
          } else {
            second.countDown();
          }
          return part;
        },
        worked::add);

    assertThat(worked).isEqualTo(IntStream.range(0, 20).boxed().toList());
  }

  @Test
  public void workEndsWithTheFirstPartThatCannotBeLookedUp() {
    var worked = new ArrayList<Integer>();

    assertThatThrownBy(
            () ->
                Ahead.inOrder(
                    List.of(1, 2, 3).iterator(),
                    part -> {
                      if (part == 2) {
                        throw new IllegalStateException("not there");
                      }
                      return part;
                    },
                    worked::add))
        .isInstanceOf(CompletionException.class)
        .hasRootCauseMessage("not there");

    assertThat(worked).containsExactly(1);
  }

  @Test
  public void aPartThatCannotBeKeptIsSaidAtTheEnd() {
    try (var keeper = new Keeper()) {
      keeper.keep(
          () -> {
            throw new IllegalStateException("the disk is full");
          });

      assertThatThrownBy(keeper::finish).hasRootCauseMessage("the disk is full");
    }
  }

  private static void await(CountDownLatch latch) {
    try {
      latch.await();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
