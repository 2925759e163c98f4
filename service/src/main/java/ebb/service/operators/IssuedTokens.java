package ebb.service.operators;

import ebb.core.operator.Caller;
import ebb.core.operator.Role;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.operators.Operator;
import ebb.store.operators.Operators;
import ebb.store.operators.Tokens;
import ebb.store.operators.Tokens.Token;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Makes tokens, which are shown once, and tells whose a token is. */
@Component
final class IssuedTokens {
  private static final String PREFIX = "ebb_";

  private final Database database;
  private final Operators operators;
  private final Tokens tokens;
  private final Journal journal;
  private final BusinessClock clock;

  IssuedTokens(
      Database database, Operators operators, Tokens tokens, Journal journal, BusinessClock clock) {
    this.database = database;
    this.operators = operators;
    this.tokens = tokens;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * A token just made.
   *
   * @param text to be shown once
   */
  record Made(Token token, String text) {}

  /**
   * @param role less than the operator's own; null for no less
   * @param days null for a token that ends only when revoked
   */
  Made make(String operator, String label, Role role, Integer days, String by) {
    if (days != null && days < 1) {
      throw Refusal.invalid(
          new Problem(
              "days-invalid",
              "%d days is no time to work in.".formatted(days),
              "The token would be over before it is used.",
              "Give one day or more, or leave it out.",
              Where.field("days")));
    }
    var text = PREFIX + SecretBox.randomText();
    var now = Instant.now();
    var expiresAt = days == null ? null : now.plus(Duration.ofDays(days));
    return database.write(
        session -> {
          operators
              .get(session, operator)
              .filter(one -> one.endedAt() == null)
              .orElseThrow(
                  () -> Refusal.notFound("operator", operator, "See the list of operators."));
          var token =
              tokens.add(session, operator, label, role, SecretBox.hash(text), now, expiresAt);
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "made token %d (%s) for %s".formatted(token.id(), label, operator)));
          return new Made(token, text);
        });
  }

  List<Token> list() {
    return database.read(tokens::list);
  }

  void revoke(long id, String by) {
    database.writeAll(
        session -> {
          if (!tokens.revoke(session, id, Instant.now())) {
            throw Refusal.notFound("token in force", id, "See: ebb tokens list");
          }
          journal.write(session, clock.instant(), Deed.of(by, "revoked token " + id));
        });
  }

  /** The operator a token belongs to; empty if it is unknown, over or revoked. */
  Optional<Caller> caller(String text) {
    return database.read(
        session ->
            tokens
                .byHash(session, SecretBox.hash(text))
                .filter(token -> token.isGoodAt(Instant.now()))
                .flatMap(
                    token ->
                        operators
                            .get(session, token.operator())
                            .filter(one -> one.endedAt() == null)
                            .map((Operator one) -> one.caller(token.role()))));
  }
}
