package ebb.service.feeds;

import ebb.core.feed.Feed;
import ebb.core.feed.Timetable;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Comparator;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.scheduling.support.CronExpression;
import org.springframework.stereotype.Component;

/** When a feed is got, or its delivery expected. */
@Component
final class FeedTimes {
  /** A timetable of blackouts alone has no next time. */
  private static final int MOST_TRIES = 1_000;

  /** Which field of an expression says the hours. */
  private static final int HOURS = 2;

  private final InstantSource clock;
  private final ZoneId organisation;

  FeedTimes(InstantSource clock, @Value("${ebb.zone}") ZoneId organisation) {
    this.clock = clock;
    this.organisation = organisation;
  }

  /** The next time after an instant; empty where there is none. */
  Optional<Instant> next(Timetable timetable, Instant after) {
    if (timetable.cron() == null) {
      return Optional.empty();
    }
    var cron = CronExpression.parse(timetable.cron());
    var next = next(cron, after.atZone(zone(timetable)));
    for (int i = 0; i < MOST_TRIES && next.isPresent(); i++) {
      if (!timetable.isBlackout(next.get().toLocalDate())
          && !(namesHours(timetable.cron()) && comesAgain(next.get()))) {
        return next.map(ZonedDateTime::toInstant);
      }
      next = next(cron, next.get());
    }
    return Optional.empty();
  }

  /**
   * Whether an expression names hours of the day, so that each of its times is meant once a day.
   */
  private static boolean namesHours(String cron) {
    var fields = cron.strip().split("\\s+");
    return fields.length > HOURS ? !fields[HOURS].startsWith("*") : !cron.equals("@hourly");
  }

  /** In autumn an hour comes twice: whether this is the second time. */
  private static boolean comesAgain(ZonedDateTime time) {
    return !time.equals(time.withEarlierOffsetAtOverlap());
  }

  /**
   * A time in the hour that the clocks leave out in spring comes when that hour is over; the
   * expression alone would leave out the day.
   */
  private static Optional<ZonedDateTime> next(CronExpression cron, ZonedDateTime after) {
    var byClocks = Optional.ofNullable(cron.next(after.toLocalDateTime()));
    return Stream.concat(
            byClocks.map(time -> time.atZone(after.getZone())).stream(),
            Optional.ofNullable(cron.next(after)).stream())
        .filter(time -> time.isAfter(after))
        .min(Comparator.naturalOrder());
  }

  /**
   * When to look next: at its time for what is got, some time later for what is expected, so that
   * it is not said to be late before it is.
   */
  Optional<Instant> nextLook(Feed feed, Instant after) {
    var grace = grace(feed);
    return next(feed.timetable(), after.minus(grace)).map(time -> time.plus(grace));
  }

  /** The last time to look up to now, where some passed while the service did not run. */
  Instant lastLook(Feed feed, Instant due, Instant now) {
    var last = due;
    for (int i = 0; i < MOST_TRIES; i++) {
      var next = nextLook(feed, last).filter(time -> !time.isAfter(now));
      if (next.isEmpty()) {
        break;
      }
      last = next.get();
    }
    return last;
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
    return timetable.zone() == null ? organisation : timetable.zone();
  }
}
