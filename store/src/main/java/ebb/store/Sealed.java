package ebb.store;

import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** A column whose texts are sealed, so that they can be sealed anew under another key. */
public enum Sealed {
  APPLICATIONS("application", "name", "secret"),
  FEEDS("feed", "source", "secret"),
  SECOND_FACTORS("operator", "name", "second_factor"),
  SECOND_FACTORS_ASKED("operator", "name", "second_factor_asked"),
  PEOPLE("person_key", "person_id", "wrapped");

  private final String table;
  private final String key;
  private final String column;

  Sealed(String table, String key, String column) {
    this.table = table;
    this.key = key;
    this.column = column;
  }

  /**
   * Seals the next texts anew, in the order of their keys.
   *
   * @param after where the last part ended; null to begin
   * @return where this one ended; empty if there was nothing more
   */
  public Optional<Object> anew(StatelessSession session, SecretBox box, Object after, int max) {
    var rows =
        session
            .createNativeQuery(
                "select %1$s, %2$s from %3$s where %2$s is not null%4$s order by %1$s"
                    .formatted(
                        key, column, table, after == null ? "" : " and %s > :after".formatted(key)),
                Object[].class)
            .setMaxResults(max);
    if (after != null) {
      rows.setParameter("after", after);
    }
    List<Object[]> part = rows.list();
    for (var row : part) {
      // Only if nobody gave it another text meanwhile, which is sealed anew already.
      session
          .createNativeMutationQuery(
              "update %1$s set %2$s = :anew where %3$s = :key and %2$s = :old"
                  .formatted(table, column, key))
          .setParameter("anew", box.seal(box.open((String) row[1])))
          .setParameter("key", row[0])
          .setParameter("old", row[1])
          .executeUpdate();
    }
    return part.isEmpty() ? Optional.empty() : Optional.of(part.getLast()[0]);
  }
}
