package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Map;
import java.util.Set;

/**
 * A standing source.
 *
 * @param kind folder, http, sftp or push
 * @param state draft, on or paused
 * @param hasSecret whether there is one, or a token to push by; it is never shown
 * @param isMapped whether it is known what its columns mean
 * @param nextAt when it is got or expected next; null where no time is set, or it is not on
 * @param last the last look that found something; null if there was none
 * @param problem what is amiss; null if it is well
 * @param waiting how many people and groups were pushed since the last delivery; null of other
 *     feeds
 * @param version the ETag
 */
public record FeedView(
    String source,
    String kind,
    Map<String, String> settings,
    boolean hasSecret,
    String cron,
    String zone,
    Set<LocalDate> blackouts,
    int graceMinutes,
    boolean complete,
    String missing,
    String state,
    boolean isMapped,
    Instant nextAt,
    FeedRunView last,
    ProblemView problem,
    Instant problemSince,
    Long waiting,
    long version) {}
