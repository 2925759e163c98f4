package ebb.service.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.imports.Mode;
import ebb.core.problem.Refusal;
import java.time.Duration;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class RequestsTest {
  @Test
  public void aPageHasALimitWhateverIsAsked() {
    assertThat(Requests.limit(null)).isEqualTo(50);
    assertThat(Requests.limit(7)).isEqualTo(7);
    assertThat(Requests.limit(0)).isEqualTo(1);
    assertThat(Requests.limit(Integer.MAX_VALUE)).isEqualTo(1_000);
  }

  @DataProvider
  Object[][] waits() {
    return new Object[][] {
      {null, 0},
      {"wait=30", 30},
      {"respond-async, wait=5", 5},
      {"wait=99999", 300},
      {"wait=soon", 0},
      {"return=minimal", 0}
    };
  }

  @Test(dataProvider = "waits")
  public void aCallerWaitsAsLongAsTheyPreferAndNoLongerThanFiveMinutes(String prefer, int seconds) {
    assertThat(Requests.wait(prefer)).isEqualTo(Duration.ofSeconds(seconds));
  }

  @Test
  public void aVersionIsReadFromAnETagStrongOrWeak() {
    assertThat(Requests.version(null)).isNull();
    assertThat(Requests.version("*")).isNull();
    assertThat(Requests.version("\"12\"")).isEqualTo(12);
    assertThat(Requests.version("W/\"12\"")).isEqualTo(12);
    assertThat(code(() -> Requests.version("\"abc\""))).isEqualTo("if-match-invalid");
  }

  @Test
  public void aCursorThatIsNoneIsSaid() {
    assertThat(Requests.cursor(null)).isNull();
    assertThat(Requests.cursor("12")).isEqualTo(12);
    assertThat(code(() -> Requests.cursor("-1"))).isEqualTo("cursor-invalid");
    assertThat(code(() -> Requests.cursor("9".repeat(30)))).isEqualTo("cursor-invalid");
  }

  @Test
  public void wordsAreTakenAsTheyAreShown() {
    assertThat(Requests.word(Mode.class, "add-only", "mode")).isEqualTo(Mode.ADD_ONLY);
    assertThat(Requests.word(Mode.class, "ADD only", "mode")).isEqualTo(Mode.ADD_ONLY);
    assertThat(Requests.word(Mode.class, null, "mode")).isNull();
    var refused =
        catchThrowableOfType(Refusal.class, () -> Requests.word(Mode.class, "merge", "mode"));
    assertThat(refused.problems().getFirst().why()).contains("add-and-update", "update-only");
  }

  @Test
  public void whatSomebodyElseWroteIsNotOverwritten() {
    Requests.expect("A rule", null, 3);
    Requests.expect("A rule", 3L, 3);
    var refused = catchThrowableOfType(Refusal.class, () -> Requests.expect("A rule", 2L, 3));
    assertThat(refused.kind()).isEqualTo(Refusal.Kind.STALE);
  }

  @Test
  public void aTextThatMustBeThereIsStripped() {
    assertThat(Requests.required(" x ", "name")).isEqualTo("x");
    assertThat(code(() -> Requests.required("  ", "name"))).isEqualTo("field-missing");
    assertThat(code(() -> Requests.required(null, "name"))).isEqualTo("field-missing");
  }

  private static String code(ThrowingCallable call) {
    return catchThrowableOfType(Refusal.class, call).problems().getFirst().code();
  }
}
