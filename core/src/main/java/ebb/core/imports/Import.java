package ebb.core.imports;

import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * One reading of a file.
 *
 * @param source null until somebody says where the file comes from
 * @param print of the file, as text: tells one that was brought in before
 * @param size of the file in bytes
 * @param writtenAt when the file was written, as its sender says; null if nobody does
 * @param questions what must be answered before it can be checked; empty if nothing
 * @param counts rows by verdict, and under "missing" the people it does not name
 * @param changeSet gathers the effects; null until reading begins
 * @param tookMillis how long reading, checking and computing took; null until they are done
 */
public record Import(
    long id,
    String source,
    String file,
    String print,
    long size,
    Instant writtenAt,
    Format format,
    Terms terms,
    Stage stage,
    List<Problem> questions,
    Map<String, Long> counts,
    Long changeSet,
    Long tookMillis,
    String createdBy,
    Instant createdAt) {
  /** Under which the people are counted whom the file does not name. */
  public static final String MISSING = "missing";

  /** How many rows the list of people has, as far as it was read. */
  public long rows() {
    return counts.entrySet().stream()
        .filter(count -> !count.getKey().equals(MISSING))
        .mapToLong(Map.Entry::getValue)
        .sum();
  }

  /** The set that has the effects; null until the file is checked. */
  public Long effects() {
    return stage == Stage.READ ? null : changeSet;
  }

  public Import at(Stage stage) {
    return with(stage, questions, counts, changeSet, tookMillis);
  }

  /** The same import with what was found in it. */
  public Import found(Map<String, Long> counts, Long changeSet) {
    return with(stage, questions, counts, changeSet, tookMillis);
  }

  /** The same import with its effects in another set. */
  public Import into(long changeSet) {
    return with(stage, questions, counts, changeSet, tookMillis);
  }

  public Import took(long millis) {
    return with(stage, questions, counts, changeSet, millis);
  }

  /** The same import, waiting for answers. */
  public Import asking(List<Problem> questions) {
    return with(stage, questions, counts, changeSet, tookMillis);
  }

  /** The same import, to be read anew in these ways. */
  public Import as(String source, Format format, Terms terms) {
    return new Import(
        id,
        source,
        file,
        print,
        size,
        writtenAt,
        format,
        terms,
        Stage.READ,
        List.of(),
        Map.of(),
        null,
        null,
        createdBy,
        createdAt);
  }

  private Import with(
      Stage stage,
      List<Problem> questions,
      Map<String, Long> counts,
      Long changeSet,
      Long tookMillis) {
    return new Import(
        id,
        source,
        file,
        print,
        size,
        writtenAt,
        format,
        terms,
        stage,
        questions,
        counts,
        changeSet,
        tookMillis,
        createdBy,
        createdAt);
  }
}
