package ebb.store.operators;

import java.time.Instant;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Where operators are signed in to the console. Survives a restart of the service. */
public final class SignIns {
  /**
   * @param usedAt when it was last used, give or take a minute
   * @param expiresAt when it ends, however much it is used
   */
  public record SignIn(String hash, String operator, Instant usedAt, Instant expiresAt) {}

  public void add(
      StatelessSession session, String hash, String operator, Instant now, Instant expiresAt) {
    var row = new SignInEntity();
    row.hash = hash;
    row.operator = operator;
    row.createdAt = now;
    row.usedAt = now;
    row.expiresAt = expiresAt;
    session.insert(row);
  }

  public Optional<SignIn> get(StatelessSession session, String hash) {
    return Optional.ofNullable(session.get(SignInEntity.class, hash))
        .map(row -> new SignIn(row.hash, row.operator, row.usedAt, row.expiresAt));
  }

  public void used(StatelessSession session, String hash, Instant now) {
    session
        .createMutationQuery("update SignInEntity set usedAt = :now where hash = :hash")
        .setParameter("now", now)
        .setParameter("hash", hash)
        .executeUpdate();
  }

  public void end(StatelessSession session, String hash) {
    session
        .createMutationQuery("delete from SignInEntity where hash = :hash")
        .setParameter("hash", hash)
        .executeUpdate();
  }

  /**
   * Ends all sign-ins of an operator.
   *
   * @param but the hash of one to keep; null to keep none
   */
  public void endAll(StatelessSession session, String operator, String but) {
    session
        .createMutationQuery("delete from SignInEntity where operator = :operator and hash <> :but")
        .setParameter("operator", operator)
        .setParameter("but", but == null ? "" : but)
        .executeUpdate();
  }

  public void dropOver(StatelessSession session, Instant now) {
    session
        .createMutationQuery("delete from SignInEntity where expiresAt < :now")
        .setParameter("now", now)
        .executeUpdate();
  }
}
