package ebb.service.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.core.feed.Timetable;
import ebb.core.imports.Missing;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.TreeSet;
import org.testng.annotations.Test;

@Test
public class FeedTimesTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final Instant MONDAY_NOON = Instant.parse("2026-11-23T11:00:00Z");
  private static final String EACH_MORNING = "0 30 5 * * *";

  private final FeedTimes times = new FeedTimes(InstantSource.fixed(MONDAY_NOON), OSLO);

  public void timesAreMeantInTheirZone() {
    assertThat(next(EACH_MORNING, null)).isEqualTo("2026-11-24T04:30:00Z");
    assertThat(next(EACH_MORNING, ZoneId.of("Asia/Tokyo"))).isEqualTo("2026-11-23T20:30:00Z");
  }

  public void inTheHourThatComesTwiceATimeOfTheDayComesOnceAndQuarterHoursGoOn() {
    var firstHalfPastTwo = Instant.parse("2027-10-31T00:30:00Z");

    assertThat(times.next(timetable("0 30 2 * * *", null), firstHalfPastTwo.minusSeconds(1)))
        .contains(firstHalfPastTwo);
    assertThat(times.next(timetable("0 30 2 * * *", null), firstHalfPastTwo))
        .contains(Instant.parse("2027-11-01T01:30:00Z"));
    assertThat(times.next(timetable("0 0/15 * * * *", null), Instant.parse("2027-10-31T00:45:00Z")))
        .contains(Instant.parse("2027-10-31T01:00:00Z"));
  }

  public void aDayOffIsSkipped() {
    assertThat(next(EACH_MORNING, null, "2026-11-24", "2026-11-25"))
        .isEqualTo("2026-11-26T04:30:00Z");
    assertThat(times.isBlackout(feed(Origin.Kind.FOLDER, "2026-11-23"))).isTrue();
    assertThat(times.isBlackout(feed(Origin.Kind.FOLDER, "2026-11-24"))).isFalse();
  }

  public void anHourThatTheClocksLeaveOutStillComes() {
    var before = Instant.parse("2027-03-27T12:00:00Z");
    assertThat(times.next(timetable("0 30 2 * * *", null), before))
        .contains(Instant.parse("2027-03-28T01:30:00Z"));
  }

  public void whereNothingIsSetNothingIsExpected() {
    assertThat(times.next(timetable(null, null), MONDAY_NOON)).isEmpty();
    assertThat(times.next(timetable("0 0 5 31 2 *", null), MONDAY_NOON)).isEmpty();
  }

  public void whatIsGotIsLookedAtAtItsTimeAndWhatIsExpectedLater() {
    assertThat(times.nextLook(feed(Origin.Kind.HTTP), MONDAY_NOON))
        .contains(Instant.parse("2026-11-24T04:30:00Z"));
    assertThat(times.nextLook(feed(Origin.Kind.FOLDER), MONDAY_NOON))
        .contains(Instant.parse("2026-11-24T05:30:00Z"));
  }

  public void aDeliveryCountsForTheNearestTime() {
    var look = Instant.parse("2026-11-24T05:30:00Z");
    assertThat(times.countsFrom(feed(Origin.Kind.FOLDER), look)).isEqualTo("2026-11-23T16:30:00Z");
  }

  public void afterAStandstillTheLastTimeThatPassedIsLookedAt() {
    var feed = feed(Origin.Kind.FOLDER);
    var due = Instant.parse("2026-11-24T05:30:00Z");
    assertThat(times.lastLook(feed, due, due.plus(Duration.ofDays(3).plusHours(1))))
        .isEqualTo("2026-11-27T05:30:00Z");
    assertThat(times.lastLook(feed, due, due.plusSeconds(1))).isEqualTo(due);
  }

  private Instant next(String cron, ZoneId zone, String... blackouts) {
    return times.next(timetable(cron, zone, blackouts), MONDAY_NOON).orElseThrow();
  }

  private static Timetable timetable(String cron, ZoneId zone, String... blackouts) {
    var days = new TreeSet<>(List.of(blackouts).stream().map(LocalDate::parse).toList());
    return new Timetable(cron, zone, days, null);
  }

  private static Feed feed(Origin.Kind kind, String... blackouts) {
    return new Feed(
        "hr",
        new Origin(kind, null),
        timetable(EACH_MORNING, null, blackouts),
        true,
        Missing.Decision.UNDECIDED,
        Feed.State.ON,
        1);
  }
}
