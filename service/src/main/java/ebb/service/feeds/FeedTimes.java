package ebb.service.feeds;

import ebb.core.feed.Feed;
import ebb.core.feed.Timetable;
import ebb.service.time.BusinessClock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Optional;
import org.springframework.scheduling.support.CronExpression;
import org.springframework.stereotype.Component;

/** When a feed is got, or its delivery expected. */
@Component
final class FeedTimes {
  /** A timetable of blackouts alone has no next time. */
  private static final int MOST_TRIES = 1_000;

  private final BusinessClock clock;

  FeedTimes(BusinessClock clock) {
    this.clock = clock;
  }

  /** The next time after an instant; empty where there is none. */
  Optional<Instant> next(Timetable timetable, Instant after) {
    if (timetable.cron() == null) {
      return Optional.empty();
    }
    var cron = CronExpression.parse(timetable.cron());
    var next = cron.next(ZonedDateTime.ofInstant(after, zone(timetable)));
    for (int i = 0; i < MOST_TRIES && next != null; i++) {
      if (!timetable.isBlackout(next.toLocalDate())) {
        return Optional.of(next.toInstant());
      }
      next = cron.next(next);
    }
    return Optional.empty();
  }

  /**
   * When to look next: at its time for what is got, some time later for what is expected, so that
   * it is not said to be late before it is.
   */
  Optional<Instant> nextLook(Feed feed, Instant after) {
    var grace = grace(feed);
    return next(feed.timetable(), after.minus(grace)).map(time -> time.plus(grace));
  }

  /**
   * From when on a delivery counts for the time that is looked at: half-way from the one before.
   */
  Instant countsFrom(Feed feed, Instant look) {
    var time = look.minus(grace(feed));
    var following = next(feed.timetable(), time).orElse(time.plus(Duration.ofDays(1)));
    return time.minus(Duration.between(time, following).dividedBy(2));
  }

  boolean isBlackout(Feed feed) {
    return feed.timetable()
        .isBlackout(clock.instant().atZone(zone(feed.timetable())).toLocalDate());
  }

  private static Duration grace(Feed feed) {
    return feed.origin().kind().isPulled() ? Duration.ZERO : feed.timetable().grace();
  }

  private ZoneId zone(Timetable timetable) {
    return timetable.zone() == null ? clock.zone() : timetable.zone();
  }
}
