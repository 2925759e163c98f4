package ebb.service.operators;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import org.apache.commons.codec.binary.Base32;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class SecondFactorTest {
  /** The secret of RFC 6238, appendix B. */
  private static final String SECRET =
      new Base32().encodeToString("12345678901234567890".getBytes(StandardCharsets.US_ASCII));

  /** Times and codes of RFC 6238, appendix B; six digits are the last six of its eight. */
  @DataProvider
  public Object[][] published() {
    return new Object[][] {
      {59L, "287082"},
      {1111111109L, "081804"},
      {1111111111L, "050471"},
      {1234567890L, "005924"},
      {2000000000L, "279037"},
      {20000000000L, "353130"},
    };
  }

  @Test(dataProvider = "published")
  public void codesAreThoseTheStandardPublishes(long second, String code) {
    assertThat(SecondFactor.code(SECRET, second / 30)).isEqualTo(code);
    assertThat(SecondFactor.step(SECRET, code, Instant.ofEpochSecond(second), null))
        .hasValue(second / 30);
  }

  @Test
  public void aClockMayBeOneStepOffAndNoMore() {
    var at = Instant.ofEpochSecond(1111111109L);
    assertThat(SecondFactor.step(SECRET, "081804", at.plusSeconds(30), null)).isPresent();
    assertThat(SecondFactor.step(SECRET, "081804", at.minusSeconds(30), null)).isPresent();
    assertThat(SecondFactor.step(SECRET, "081804", at.plusSeconds(60), null)).isEmpty();
  }

  @Test
  public void noCodeIsTakenTwice() {
    var at = Instant.ofEpochSecond(1111111109L);
    var step = SecondFactor.step(SECRET, "081804", at, null).getAsLong();
    assertThat(SecondFactor.step(SECRET, "081804", at, step)).isEmpty();
  }

  @Test
  public void newSecretsAreTakenByAuthenticators() {
    var secret = SecondFactor.newSecret();
    assertThat(new Base32().decode(secret)).hasSize(20);
    assertThat(SecondFactor.address(secret, "ines@skerrow.example"))
        .isEqualTo("otpauth://totp/Ebb:ines%40skerrow.example?secret=" + secret + "&issuer=Ebb");
  }
}
