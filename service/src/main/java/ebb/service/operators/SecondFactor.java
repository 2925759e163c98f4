package ebb.service.operators;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import ebb.store.SecretBox;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.time.Duration;
import java.time.Instant;
import java.util.OptionalLong;
import java.util.stream.LongStream;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;

/** Time-based codes (RFC 6238), as authenticators make them: SHA-1, six digits, thirty seconds. */
final class SecondFactor {
  private static final Duration STEP = Duration.ofSeconds(30);
  private static final int DIGITS = 6;
  private static final int SECRET_BYTES = 20;
  private static final TimeBasedOneTimePasswordGenerator CODES =
      new TimeBasedOneTimePasswordGenerator(STEP, DIGITS);

  static String newSecret() {
    return new Base32().encodeToString(SecretBox.random(SECRET_BYTES));
  }

  static String address(String secret, String operator) {
    return "otpauth://totp/Ebb:%s?secret=%s&issuer=Ebb"
        .formatted(URLEncoder.encode(operator, StandardCharsets.UTF_8), secret);
  }

  /**
   * The time step a code belongs to, one step of clock drift allowed either way (RFC 6238, 5.2).
   *
   * @param last the step of the last code taken, and all before it, are taken no more; null if none
   * @return empty if the code is wrong
   */
  static OptionalLong step(String secret, String code, Instant now, Long last) {
    var step = now.getEpochSecond() / STEP.toSeconds();
    return LongStream.rangeClosed(step - 1, step + 1)
        .filter(one -> last == null || one > last)
        .filter(one -> code(secret, one).equals(code))
        .findFirst();
  }

  static String code(String secret, long step) {
    var key = new SecretKeySpec(new Base32().decode(secret), CODES.getAlgorithm());
    try {
      return CODES.generateOneTimePasswordString(
          key, Instant.ofEpochSecond(step * STEP.toSeconds()));
    } catch (InvalidKeyException e) {
      throw new IllegalStateException("Every key fits HMAC", e);
    }
  }

  private SecondFactor() {}
}
