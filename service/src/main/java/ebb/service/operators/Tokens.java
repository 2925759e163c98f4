package ebb.service.operators;

import ebb.core.problem.Refusal;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.operators.Operators;
import ebb.store.operators.Operators.Token;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Makes tokens, which are shown once, and tells whose a token is. */
@Component
public final class Tokens {
  private static final int BYTES = 32;
  private static final String PREFIX = "ebb_";

  private final Database database;
  private final Operators operators;
  private final Journal journal;
  private final BusinessClock clock;

  Tokens(Database database, Operators operators, Journal journal, BusinessClock clock) {
    this.database = database;
    this.operators = operators;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * A token just made.
   *
   * @param text to be shown once
   */
  record Made(Token token, String text) {}

  Made make(String operator, String label, Integer days) {
    var text =
        PREFIX + Base64.getUrlEncoder().withoutPadding().encodeToString(SecretBox.random(BYTES));
    var now = Instant.now();
    var expiresAt = days == null ? null : now.plus(Duration.ofDays(days));
    return database.write(
        session -> {
          var token = operators.addToken(session, operator, label, hash(text), now, expiresAt);
          journal.write(
              session,
              clock.instant(),
              Deed.of(operator, "made token %d (%s)".formatted(token.id(), label)));
          return new Made(token, text);
        });
  }

  /** Makes the first operator; empty if there is one already. */
  Optional<Made> makeFirst() {
    var isNew =
        database.write(
            session -> {
              if (!operators.isEmpty(session)) {
                return false;
              }
              operators.add(session, "administrator", "administrator", Instant.now());
              return true;
            });
    return isNew ? Optional.of(make("administrator", "first start", null)) : Optional.empty();
  }

  List<Token> list() {
    return database.read(operators::tokens);
  }

  void revoke(long id, String by) {
    database.writeAll(
        session -> {
          if (!operators.revoke(session, id, Instant.now())) {
            throw Refusal.notFound("token in force", id, "See: ebb tokens list");
          }
          journal.write(session, clock.instant(), Deed.of(by, "revoked token " + id));
        });
  }

  /** The operator a token belongs to; empty if it is unknown, over or revoked. */
  Optional<String> operator(String text) {
    return database
        .read(session -> operators.byHash(session, hash(text)))
        .filter(token -> token.isGoodAt(Instant.now()))
        .map(Token::operator);
  }

  /** SHA-256 is enough for what is random itself: there is nothing to guess. */
  public static String hash(String text) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }
}
