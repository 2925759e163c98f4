package ebb.core.feed;

import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Collection;
import java.util.Collections;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * When deliveries are got, or expected.
 *
 * @param cron seconds, minutes, hours, days, months and weekdays; null where nothing is expected at
 *     any time
 * @param zone in which its times are meant; null for the organisation's
 * @param blackouts days on which nothing is got, and nothing expected
 * @param grace how long after its time a delivery is not late yet
 */
public record Timetable(String cron, ZoneId zone, SortedSet<LocalDate> blackouts, Duration grace) {
  /** An hour: exports of a night wait for each other. */
  public static final Duration USUAL_GRACE = Duration.ofHours(1);

  public Timetable {
    blackouts = copy(blackouts);
    grace = grace == null ? USUAL_GRACE : grace;
  }

  private static SortedSet<LocalDate> copy(Collection<LocalDate> days) {
    return Collections.unmodifiableSortedSet(days == null ? new TreeSet<>() : new TreeSet<>(days));
  }

  public boolean isBlackout(LocalDate day) {
    return blackouts.contains(day);
  }
}
