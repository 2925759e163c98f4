package ebb.core.imports;

import java.time.Instant;
import java.util.Map;

/**
 * One reading of a file.
 *
 * @param counts rows by verdict, and under "missing" the people it does not name
 * @param changeSet the effects; null until they are shown
 */
public record Import(
    long id,
    String source,
    String file,
    String sha256,
    boolean complete,
    Stage stage,
    Map<String, Long> counts,
    Long changeSet,
    String createdBy,
    Instant createdAt) {
  public Import at(Stage stage) {
    return new Import(
        id, source, file, sha256, complete, stage, counts, changeSet, createdBy, createdAt);
  }

  /** The same import with what was found in it. */
  public Import found(Map<String, Long> counts, long changeSet) {
    return new Import(
        id, source, file, sha256, complete, stage, counts, changeSet, createdBy, createdAt);
  }
}
