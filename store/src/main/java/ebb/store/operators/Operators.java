package ebb.store.operators;

import ebb.store.Numbers;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Operators and the tokens they work with. Only hashes of tokens are kept. */
public final class Operators {
  public static final List<Class<?>> ENTITIES =
      List.of(OperatorEntity.class, TokenEntity.class, AnsweredEntity.class);

  /**
   * @param expiresAt null for one that ends only when revoked
   * @param revokedAt null while it is good
   */
  public record Token(
      long id,
      String operator,
      String label,
      Instant createdAt,
      Instant expiresAt,
      Instant revokedAt) {
    public boolean isGoodAt(Instant instant) {
      return revokedAt == null && (expiresAt == null || instant.isBefore(expiresAt));
    }
  }

  public boolean isEmpty(StatelessSession session) {
    return session
            .createSelectionQuery("select count(*) from OperatorEntity", Long.class)
            .getSingleResult()
        == 0;
  }

  public void add(StatelessSession session, String name, String role, Instant at) {
    var row = new OperatorEntity();
    row.name = name;
    row.role = role;
    row.createdAt = at;
    session.insert(row);
  }

  public Token addToken(
      StatelessSession session,
      String operator,
      String label,
      String hash,
      Instant at,
      Instant expiresAt) {
    var row = new TokenEntity();
    row.id = Numbers.next(session, "token_seq");
    row.operator = operator;
    row.label = label;
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
        .map(Operators::token);
  }

  public List<Token> tokens(StatelessSession session) {
    return session.createSelectionQuery("from TokenEntity order by id", TokenEntity.class).stream()
        .map(Operators::token)
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
    return new Token(row.id, row.operator, row.label, row.createdAt, row.expiresAt, row.revokedAt);
  }
}
