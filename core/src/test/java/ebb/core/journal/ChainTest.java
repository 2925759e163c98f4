package ebb.core.journal;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.PersonId;
import java.time.Instant;
import org.testng.annotations.Test;

public class ChainTest {
  private static final Entry ENTRY =
      new Entry(
          1, Instant.parse("2027-03-01T12:00:00Z"), "ida", "released", new PersonId(2), null, null);

  @Test
  public void everyFieldAndTheSealBeforeCount() {
    var seal = Chain.seal(Chain.START, ENTRY);

    assertThat(seal).hasSize(64);
    assertThat(Chain.seal(seal, ENTRY)).isNotEqualTo(seal);
    assertThat(
            Chain.seal(
                Chain.START,
                new Entry(1, ENTRY.at(), "ida", "released", new PersonId(2), "", null)))
        .as("no reason is not an empty reason")
        .isNotEqualTo(seal);
    assertThat(
            Chain.seal(
                Chain.START,
                new Entry(1, ENTRY.at(), "idar", "eleased", new PersonId(2), null, null)))
        .as("nothing moves between fields")
        .isNotEqualTo(seal);
  }

  @Test
  public void aCommitmentSaysNothingWithoutItsSalt() {
    assertThat(Chain.commitment(new byte[] {1}, "Mate"))
        .isNotEqualTo(Chain.commitment(new byte[] {2}, "Mate"));
  }
}
