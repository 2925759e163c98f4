package ebb.store.changes;

import ebb.core.application.Wire.Exchange;
import ebb.store.Batch;
import ebb.store.Json;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.List;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** What went over the wire for each change, try by try. */
public final class Attempts {
  private static final TypeReference<List<Exchange>> EXCHANGES = new TypeReference<>() {};

  private static final String INSERT =
      "merge into attempt (change_id, number, asked_at, answered_at, outcome, exchanges)"
          + " key (change_id, number) values (?, ?, ?, ?, ?, ?)";

  /**
   * One try.
   *
   * @param number from 1
   * @param outcome the state the change was in afterwards
   */
  public record Attempt(long change, int number, String outcome, List<Exchange> exchanges) {
    Instant askedAt() {
      return exchanges.getFirst().askedAt();
    }

    Instant answeredAt() {
      return exchanges.getLast().answeredAt();
    }
  }

  /** Keeps tries; one that is kept already under its number is replaced. */
  public void add(StatelessSession session, Collection<Attempt> attempts) {
    Batch.execute(
        session,
        INSERT,
        attempts,
        (insert, attempt) -> {
          insert.setLong(1, attempt.change());
          insert.setInt(2, attempt.number());
          insert.setObject(3, attempt.askedAt().atOffset(ZoneOffset.UTC));
          insert.setObject(4, attempt.answeredAt().atOffset(ZoneOffset.UTC));
          insert.setString(5, attempt.outcome());
          insert.setString(6, Json.write(attempt.exchanges()));
        });
  }

  /** The newest tries of a change, newest first. */
  public List<Attempt> of(StatelessSession session, long change, int limit) {
    return session
        .createNativeQuery(
            "select number, outcome, exchanges from attempt where change_id = :change"
                + " order by change_id desc, number desc",
            Object[].class)
        .setParameter("change", change)
        .setMaxResults(limit)
        .stream()
        .map(
            row ->
                new Attempt(
                    change,
                    ((Number) row[0]).intValue(),
                    (String) row[1],
                    Json.read((String) row[2], EXCHANGES)))
        .toList();
  }

  /**
   * Forgets tries from before an instant, some at a time.
   *
   * @return how many; fewer than max means that none are left
   */
  public int forget(StatelessSession session, Instant before, int max) {
    return session.doReturningWork(
        connection -> {
          try (var delete =
              connection.prepareStatement(
                  "delete from attempt where change_id in (select change_id from attempt"
                      + " where asked_at < ? order by change_id, number limit ?) and asked_at < ?")) {
            OffsetDateTime then = before.atOffset(ZoneOffset.UTC);
            delete.setObject(1, then);
            delete.setInt(2, max);
            delete.setObject(3, then);
            return delete.executeUpdate();
          }
        });
  }
}
