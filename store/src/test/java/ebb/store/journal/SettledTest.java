package ebb.store.journal;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.store.journal.Settled.Gap;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.testng.annotations.Test;

public class SettledTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");

  @Test
  public void whatFollowsWithoutAGapIsSettledAtOnce() {
    var settled = new Settled(0);

    settled.sealed(List.of(1L, 2L, 3L));

    assertThat(settled.upTo()).isEqualTo(3);
  }

  @Test
  public void aNumberThatIsMissingIsWaitedForAndNotForEver() {
    var settled = new Settled(0);
    settled.sealed(List.of(1L, 2L, 4L, 5L));
    assertThat(settled.upTo()).as("number 3 may still come").isEqualTo(2);
    settled.allSealed(5, NOW);
    assertThat(settled.upTo()).isEqualTo(2);
    assertThat(settled.isDue(NOW.plusSeconds(30))).isFalse();

    assertThat(settled.isDue(NOW.plusSeconds(61))).isTrue();
    settled.allSealed(5, NOW.plusSeconds(61));

    assertThat(settled.upTo()).as("it was given up").isEqualTo(5);
    settled.sealed(List.of(6L));
    assertThat(settled.upTo()).isEqualTo(6);
  }

  @Test
  public void aLateNumberClosesTheGap() {
    var settled = new Settled(0);
    settled.sealed(List.of(1L, 3L));

    settled.sealed(List.of(2L));

    assertThat(settled.upTo()).isEqualTo(3);
  }

  @Test
  public void whatIsNotSealedIsLookedForInTheGapsAlone() {
    var settled = new Settled(10);

    settled.sealed(List.of(11L, 13L, 14L, 17L));

    assertThat(settled.gaps())
        .containsExactly(new Gap(11, 13), new Gap(14, 17), new Gap(17, Long.MAX_VALUE));
  }

  @Test
  public void inWhateverOrderEntriesComeTheGapsAreWhatIsMissing() {
    var first = Chance.seed(0);
    for (long seed = first; seed < first + 200; seed++) {
      var random = new Random(seed);
      var settled = new Settled(0);
      var sealed = new TreeSet<Long>();
      for (int i = 0; i < 30; i++) {
        var some = random.longs(3, 1, 60).boxed().toList();
        sealed.addAll(some);
        settled.sealed(some);
      }
      var open = new HashSet<Long>();
      for (var gap : settled.gaps()) {
        LongStream.range(gap.after() + 1, Math.min(gap.before(), 60)).forEach(open::add);
      }
      assertThat(open)
          .as("seed %d", seed)
          .containsExactlyInAnyOrderElementsOf(
              LongStream.range(1, 60).boxed().filter(one -> !sealed.contains(one)).toList());
    }
  }
}
