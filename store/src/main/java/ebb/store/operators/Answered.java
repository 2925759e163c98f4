package ebb.store.operators;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Requests that were answered under an Idempotency-Key, so that none is carried out twice. */
public final class Answered {
  /**
   * @param status null while the first request is still being carried out
   */
  public record Answer(String requestHash, Integer status, String body, String location) {}

  public Optional<Answer> get(StatelessSession session, String operator, String key) {
    return Optional.ofNullable(
            session.get(AnsweredEntity.class, new AnsweredEntity.Key(operator, key)))
        .map(row -> new Answer(row.requestHash, row.status, row.body, row.location));
  }

  /** Takes a key; fails with a constraint violation if it is taken. */
  public void begin(
      StatelessSession session, String operator, String key, String requestHash, Instant at) {
    var row = new AnsweredEntity();
    row.id = new AnsweredEntity.Key(operator, key);
    row.requestHash = requestHash;
    row.at = at;
    session.insert(row);
  }

  public void finish(
      StatelessSession session,
      String operator,
      String key,
      int status,
      String body,
      String location) {
    var row = session.get(AnsweredEntity.class, new AnsweredEntity.Key(operator, key));
    row.status = status;
    row.body = body;
    row.location = location;
    session.update(row);
  }

  /** Frees a key whose request changed nothing. */
  public void drop(StatelessSession session, String operator, String key) {
    session
        .createMutationQuery("delete from AnsweredEntity where id = :id")
        .setParameter("id", new AnsweredEntity.Key(operator, key))
        .executeUpdate();
  }

  /**
   * Forgets answers to requests from before an instant, some at a time.
   *
   * @return how many; fewer than max means that none are left
   */
  public int forget(StatelessSession session, Instant before, int max) {
    return session
        .createNativeMutationQuery(
            "delete from answered where (operator, idempotency_key) in"
                + " (select operator, idempotency_key from answered where at < :before"
                + " order by at limit :max)")
        .setParameter("before", before.atOffset(ZoneOffset.UTC))
        .setParameter("max", max)
        .executeUpdate();
  }
}
