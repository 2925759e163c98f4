package ebb.service.operators;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.problem.Refusal;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class PasswordsTest {
  private final Passwords passwords = new Passwords();

  @Test
  public void aPasswordIsKeptAsArgon2idAndKnownAgain() {
    var hash = passwords.hash("slack water at noon");
    assertThat(hash).startsWith("$argon2id$").doesNotContain("slack");
    assertThat(passwords.matches("slack water at noon", hash)).isTrue();
    assertThat(passwords.matches("slack water at nine", hash)).isFalse();
    assertThat(passwords.hash("slack water at noon")).isNotEqualTo(hash);
  }

  @Test
  public void whereThereIsNoHashNothingMatches() {
    assertThat(passwords.matches("nobody has this one", null)).isFalse();
    assertThat(passwords.matches(null, passwords.hash("slack water at noon"))).isFalse();
  }

  @DataProvider
  public Object[][] weak() {
    return new Object[][] {
      {"eleven char"},
      {"x".repeat(201)},
      {"this is Ines herself"},
      {"my Password is it"},
      {"abababababababab"},
      {null},
    };
  }

  @Test(dataProvider = "weak")
  public void whatIsEasilyGuessedIsRefused(String password) {
    assertThatThrownBy(() -> passwords.check(password, "ines"))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal -> assertThat(refusal.problems().getFirst().code()).isEqualTo("password-weak"));
  }

  @Test
  public void aFewWordsInARowAreGoodEnough() {
    assertThatCode(() -> passwords.check("slack water at noon", "ines")).doesNotThrowAnyException();
  }
}
