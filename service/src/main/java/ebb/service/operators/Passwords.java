package ebb.service.operators;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.util.Locale;
import java.util.concurrent.Semaphore;
import java.util.function.Supplier;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.stereotype.Component;

/** Operators' passwords, kept as Argon2id (RFC 9106) only. */
@Component
final class Passwords {
  private static final int SHORTEST = 12;
  private static final int LONGEST = 200;

  /** Each hash takes 16 MB and a whole core for a moment: a crowd must not take all of them. */
  private static final int AT_ONCE = 2;

  private final Argon2PasswordEncoder encoder =
      Argon2PasswordEncoder.defaultsForSpringSecurity_v5_8();
  private final Semaphore room = new Semaphore(AT_ONCE, true);

  /** Stands in for the hash of a name nobody has, so that both take as long. */
  private volatile String nobody;

  String hash(String password) {
    return inTurn(() -> encoder.encode(password));
  }

  /**
   * @param hash null where there is none; then it takes as long and is false
   */
  boolean matches(String password, String hash) {
    if (password == null || password.length() > LONGEST) {
      return false;
    }
    var against = hash == null ? nobody() : hash;
    return inTurn(() -> encoder.matches(password, against)) && hash != null;
  }

  /**
   * Length is what makes a password strong (NIST SP 800-63B, 3.1.1); nothing else is asked.
   *
   * @throws Refusal if it is too weak for this operator
   */
  void check(String password, String operator) {
    if (password == null || password.length() < SHORTEST) {
      throw weak("It has fewer than %d characters.".formatted(SHORTEST));
    }
    if (password.length() > LONGEST) {
      throw weak("It has more than %d characters.".formatted(LONGEST));
    }
    var lower = password.toLowerCase(Locale.ROOT);
    if (lower.contains(operator.toLowerCase(Locale.ROOT)) || lower.contains("password")) {
      throw weak("It holds your name, or the word password.");
    }
    if (password.chars().distinct().count() < 5) {
      throw weak("It repeats a few characters.");
    }
  }

  private static Refusal weak(String why) {
    return Refusal.invalid(
        new Problem(
            "password-weak",
            "The password is too easy to guess.",
            why,
            "Choose %d characters or more; a few words in a row will do.".formatted(SHORTEST),
            Where.field("password")));
  }

  private String nobody() {
    if (nobody == null) {
      nobody = encoder.encode("nobody has this one");
    }
    return nobody;
  }

  private <T> T inTurn(Supplier<T> work) {
    room.acquireUninterruptibly();
    try {
      return work.get();
    } finally {
      room.release();
    }
  }
}
