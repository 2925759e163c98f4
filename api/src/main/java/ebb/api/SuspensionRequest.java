package ebb.api;

import java.time.LocalDate;
import java.util.List;
import java.util.Set;

/**
 * Keeps people out of applications for a time.
 *
 * @param people by number; null or empty where a filter finds them
 * @param filter as in RFC 7644, in place of people; null for none
 * @param expected how many people the filter is to find; needed with a filter
 * @param reason leave, season, dormant, inquiry or other
 * @param note null for none; needed where the reason is other
 * @param from null for at once
 * @param until the last day; null until somebody ends it
 * @param review the day on which somebody is reminded to look again; null for none
 * @param applications null or empty for all
 * @param discreet whether the reason is seen only by operators with that right
 * @param notices whether what Ebb writes to them goes on meanwhile, to their private address; their
 *     manager gets it otherwise
 */
public record SuspensionRequest(
    List<Long> people,
    String filter,
    Long expected,
    String reason,
    String note,
    LocalDate from,
    LocalDate until,
    LocalDate review,
    Set<String> applications,
    boolean discreet,
    boolean notices) {}
