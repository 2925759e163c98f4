package ebb.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.guard.ImportGuard.Beside;
import ebb.core.guard.ImportGuard.Found;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** A source of four hundred people, and what can happen to its file. */
@Test
public class ImportGuardTest {
  private static final Instant NIGHT = Instant.parse("2026-11-23T02:00:00Z");
  private static final Beside USUAL = new Beside(400, "UTF-8", "UTF-8", null, NIGHT, NIGHT);
  private static final Found ORDINARY = found(400, 4, 0, 0, 3, Map.of("title", 6L));

  public void anOrdinaryDayPasses() {
    assertThat(check(ORDINARY, USUAL)).isEmpty();
  }

  public void aFirstFilePasses() {
    var first = new Found(true, 0, 400, 400, 0, 0, 0, Map.of());
    assertThat(check(first, Beside.NOTHING)).isEmpty();
  }

  public void aFileTooShortToBeTrueIsStopped() {
    assertThat(check(found(400, 0, 0, 0, 80, Map.of()), USUAL)).isEmpty();
    assertThat(codes(found(400, 0, 0, 0, 81, Map.of()), USUAL)).contains("guard-file-too-short");
  }

  public void aFileThatWasCutOffHasFewerRowsThanUsual() {
    assertThat(codes(found(279, 0, 0, 0, 0, Map.of()), USUAL)).containsExactly("guard-fewer-rows");
    assertThat(codes(found(281, 0, 0, 0, 0, Map.of()), USUAL)).isEmpty();
  }

  public void aFileJoinedWithAnotherHasMoreRowsThanUsual() {
    assertThat(codes(found(801, 0, 0, 0, 0, Map.of()), USUAL)).containsExactly("guard-more-rows");
  }

  public void aColumnThatMovedIsStopped() {
    assertThat(check(found(400, 0, 0, 0, 0, Map.of("title", 201L, "department", 10L)), USUAL))
        .singleElement()
        .satisfies(stop -> assertThat(stop.what()).contains("title"));
  }

  public void tooManyNewNamesAreStoppedLongBeforeHalf() {
    assertThat(codes(found(400, 0, 0, 0, 0, Map.of("name.familyName", 21L)), USUAL))
        .containsExactly("guard-many-renamed");
    assertThat(codes(found(400, 0, 0, 0, 0, Map.of("name.familyName", 20L)), USUAL)).isEmpty();
  }

  public void anotherEncodingIsStoppedAsSoonAsOneNameChanges() {
    var other = new Beside(400, "UTF-8", "windows-1252", null, NIGHT, NIGHT);
    assertThat(codes(found(400, 0, 0, 0, 0, Map.of("name.givenName", 1L)), other))
        .containsExactly("guard-encoding-changed");
    assertThat(codes(found(400, 0, 0, 0, 0, Map.of("title", 1L)), other)).isEmpty();
    var ofFew = new Found(false, 3, 3, 0, 0, 0, 0, Map.of("name.givenName", 1L));
    assertThat(codes(ofFew, other)).as("three people").containsExactly("guard-encoding-changed");
  }

  public void anEmptiedKeyColumnIsStopped() {
    assertThat(codes(found(400, 0, 9, 0, 0, Map.of()), USUAL))
        .containsExactly("guard-keys-emptied");
  }

  public void aFileJoinedWithItselfIsStopped() {
    assertThat(codes(found(400, 0, 0, 9, 0, Map.of()), USUAL))
        .containsExactly("guard-keys-doubled");
  }

  public void somebodyElsesFileIsStopped() {
    assertThat(codes(found(400, 201, 0, 0, 0, Map.of()), USUAL)).containsExactly("guard-strangers");
  }

  public void manyJoinersInAFileThatIsNotCompleteAreNoReasonToStop() {
    var joiners = new Found(false, 400, 100, 100, 0, 0, 0, Map.of());
    assertThat(check(joiners, USUAL)).isEmpty();
  }

  public void manyOfWhomItIsSaidThatTheyHaveGoneAreStopped() {
    var gone = new Found(false, 400, 0, 0, 0, 0, 81, Map.of());
    assertThat(codes(gone, USUAL)).containsExactly("guard-many-gone");
    assertThat(codes(new Found(false, 400, 0, 0, 0, 0, 80, Map.of()), USUAL)).isEmpty();
  }

  public void yesterdaysFileIsStopped() {
    assertThat(codes(ORDINARY, new Beside(400, null, null, 12L, NIGHT, NIGHT)))
        .containsExactly("guard-file-seen-before");
    assertThat(
            codes(
                ORDINARY,
                new Beside(400, null, null, null, NIGHT, NIGHT.minus(Duration.ofDays(1)))))
        .containsExactly("guard-file-older");
  }

  public void aLimitCanBeSetForOneSource() {
    var limits = new Limits(Map.of("missing@hr", 0.5, "missing", 0.01));
    var found = found(400, 0, 0, 0, 100, Map.of());
    assertThat(ImportGuard.check("hr", found, USUAL, limits)).isEmpty();
    assertThat(ImportGuard.check("crew", found, USUAL, limits)).hasSize(1);
  }

  public void aLimitSaysItsNumberInWords() {
    assertThat(Limit.MISSING.words(0.2)).isEqualTo("20%");
    assertThat(Limit.MISSING.words(0.125)).isEqualTo("12.5%");
    assertThat(Limit.FEW_ACCOUNTS.words(1500)).isEqualTo("1,500");
  }

  private static Found found(
      long rows,
      long strangers,
      long withoutKey,
      long doubled,
      long missing,
      Map<String, Long> changed) {
    return new Found(true, 400, rows, strangers, withoutKey, doubled, missing, changed);
  }

  private static List<String> codes(Found found, Beside beside) {
    return check(found, beside).stream().map(Problem::code).toList();
  }

  private static List<Problem> check(Found found, Beside beside) {
    return ImportGuard.check("hr", found, beside, Limits.USUAL);
  }
}
