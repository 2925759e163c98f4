package ebb.api;

import java.time.Instant;
import java.util.Map;

/**
 * One look for a delivery that found something, or something amiss.
 *
 * @param cause timetable, delivery or hand
 * @param outcome running, done, nothing-new, stopped, asked, failed or late
 * @param file null if nothing was found
 * @param made the import that was made of it; null if none was
 * @param counts its rows by verdict, and under "missing" the people it does not name
 * @param changeSet what followed from it; null if nothing was computed
 * @param endedAt null while it goes on
 */
public record FeedRunView(
    long id,
    String source,
    String cause,
    String outcome,
    String file,
    Long made,
    Map<String, Long> counts,
    Long changeSet,
    ProblemView problem,
    String by,
    Instant startedAt,
    Instant endedAt) {}
