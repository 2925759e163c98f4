package ebb.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Seats.Seat;
import org.testng.annotations.Test;

public class SeatGuardTest {
  @Test
  public void asManyAsThereAreMayBeTakenAndNotOneMore() {
    var seat = new Seat("standard", "Standard", 100L, 60);

    assertThat(SeatGuard.check("house", "standard", seat, 40, 0)).isEmpty();
    assertThat(SeatGuard.check("house", "standard", seat, 41, 0))
        .hasValueSatisfying(
            problem -> {
              assertThat(problem.code()).isEqualTo("guard-seats-short");
              assertThat(problem.what()).contains("41 seats standard").contains("40 of 100");
            });
  }

  @Test
  public void whatIsFreedByTheSameSetCountsWithIt() {
    var seat = new Seat("standard", "Standard", 100L, 100);

    assertThat(SeatGuard.check("house", "standard", seat, 5, 5)).isEmpty();
    assertThat(SeatGuard.check("house", "standard", seat, 6, 5)).isPresent();
    assertThat(SeatGuard.check("house", "standard", seat, 0, 0))
        .as("a set that takes none is not stopped for what was before")
        .isEmpty();
  }

  @Test
  public void whereNobodyKnowsHowManyThereAreNothingIsStopped() {
    assertThat(
            SeatGuard.check("house", "standard", new Seat("standard", "Standard", null, 9), 500, 0))
        .isEmpty();
  }
}
