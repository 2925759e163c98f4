package ebb.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * One reading of a file.
 *
 * @param source null until somebody says where the file comes from
 * @param mode add-and-update, add-only or update-only
 * @param everyone attribute to a value for each row that says nothing of it
 * @param format as in "csv, windows-1252, separated by ;"
 * @param questions what must be answered before it can be checked; empty if nothing
 * @param progress null where nothing is being read
 * @param counts rows by verdict, and under "missing" the people it does not name
 * @param changeSet the effects; null until they are shown
 */
public record ImportView(
    long id,
    String source,
    String file,
    boolean complete,
    String mode,
    Map<String, String> everyone,
    String format,
    String stage,
    List<ProblemView> questions,
    ProgressView progress,
    Map<String, Long> counts,
    Long changeSet,
    String createdBy,
    Instant createdAt) {}
