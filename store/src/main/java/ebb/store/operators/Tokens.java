package ebb.store.operators;

import ebb.core.operator.Role;
import ebb.store.Numbers;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** The tokens operators work with. Only their hashes are kept. */
public final class Tokens {
  /**
   * @param role less than the operator's own; null for no less
   * @param expiresAt null for one that ends only when revoked
   * @param revokedAt null while it is good
   */
  public record Token(
      long id,
      String operator,
      String label,
      Role role,
      Instant createdAt,
      Instant expiresAt,
      Instant revokedAt) {
    public boolean isGoodAt(Instant instant) {
      return revokedAt == null && (expiresAt == null || instant.isBefore(expiresAt));
    }
  }

  public Token add(
      StatelessSession session,
      String operator,
      String label,
      Role role,
      String hash,
      Instant at,
      Instant expiresAt) {
    var row = new TokenEntity();
    row.id = Numbers.next(session, "token_seq");
    row.operator = operator;
    row.label = label;
    row.role = role == null ? null : role.word();
    row.hash = hash;
    row.createdAt = at;
    row.expiresAt = expiresAt;
    session.insert(row);
    return token(row);
  }

  public Optional<Token> byHash(StatelessSession session, String hash) {
    return session
        .createSelectionQuery("from TokenEntity where hash = :hash", TokenEntity.class)
        .setParameter("hash", hash)
        .uniqueResultOptional()
        .map(Tokens::token);
  }

  public List<Token> list(StatelessSession session) {
    return session.createSelectionQuery("from TokenEntity order by id", TokenEntity.class).stream()
        .map(Tokens::token)
        .toList();
  }

  /** Revokes a token; false if there is none of this number that is good. */
  public boolean revoke(StatelessSession session, long id, Instant at) {
    return session
            .createMutationQuery(
                "update TokenEntity set revokedAt = :at where id = :id and revokedAt is null")
            .setParameter("at", at)
            .setParameter("id", id)
            .executeUpdate()
        == 1;
  }

  private static Token token(TokenEntity row) {
    return new Token(
        row.id,
        row.operator,
        row.label,
        row.role == null ? null : Role.valueOf(row.role.toUpperCase(Locale.ROOT)),
        row.createdAt,
        row.expiresAt,
        row.revokedAt);
  }
}
