package ebb.service.operators;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.problem.Refusal;
import java.time.Duration;
import java.time.Instant;
import org.testng.annotations.Test;

public class AttemptsTest {
  private static final Instant NOW = Instant.parse("2026-11-23T08:00:00Z");

  @Test
  public void aFewMistypedPasswordsCostNothing() {
    var attempts = new Attempts();
    for (int i = 0; i < 4; i++) {
      attempts.failed("name ines", NOW);
    }
    assertThatCode(() -> attempts.check("name ines", NOW)).doesNotThrowAnyException();
  }

  @Test
  public void eachFurtherOneWaitsTwiceAsLongUpToAQuarterOfAnHour() {
    var attempts = new Attempts();
    for (int i = 0; i < 5; i++) {
      attempts.failed("name ines", NOW);
    }
    assertRefused(attempts, NOW);
    assertThatCode(() -> attempts.check("name ines", NOW.plusSeconds(1)))
        .doesNotThrowAnyException();

    for (int i = 0; i < 40; i++) {
      attempts.failed("name ines", NOW);
    }
    assertRefused(attempts, NOW.plus(Duration.ofMinutes(14)));
    assertThatCode(() -> attempts.check("name ines", NOW.plus(Duration.ofMinutes(15))))
        .doesNotThrowAnyException();
  }

  @Test
  public void aStrangersGuessesDoNotKeepAKnownBrowserOut() {
    var attempts = new Attempts();
    for (int i = 0; i < 100; i++) {
      attempts.failed("name ines", NOW);
    }
    assertThatCode(() -> attempts.check("browser 17", NOW)).doesNotThrowAnyException();
  }

  @Test
  public void aSuccessForgetsTheFailures() {
    var attempts = new Attempts();
    for (int i = 0; i < 9; i++) {
      attempts.failed("name ines", NOW);
    }
    attempts.succeeded("name ines");
    assertThatCode(() -> attempts.check("name ines", NOW)).doesNotThrowAnyException();
  }

  private static void assertRefused(Attempts attempts, Instant at) {
    assertThatThrownBy(() -> attempts.check("name ines", at))
        .isInstanceOfSatisfying(
            Refusal.class, refusal -> assertThat(refusal.kind()).isEqualTo(Refusal.Kind.TOO_OFTEN));
  }
}
