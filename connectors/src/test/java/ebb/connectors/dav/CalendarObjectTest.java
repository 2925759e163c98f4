package ebb.connectors.dav;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.dav.CalendarObject.Apart;
import ebb.connectors.dav.CalendarObject.Change;
import ebb.core.Chance;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import net.fortuna.ical4j.model.Period;
import net.fortuna.ical4j.model.ZoneRulesProviderImpl;
import net.fortuna.ical4j.model.component.VEvent;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class CalendarObjectTest {
  private static final int SERIES = Integer.getInteger("calendar.series", 100);

  /** A Tuesday. */
  private static final ZonedDateTime DAY =
      ZonedDateTime.parse("2026-12-01T00:00+01:00[Europe/Oslo]");

  private static final Change CHANGE =
      new Change(DAY, "ada@skerrow.example", "bea@skerrow.example", false);

  private static final String OSLO =
      """
      BEGIN:VTIMEZONE
      TZID:Europe/Oslo
      BEGIN:STANDARD
      DTSTART:19701025T030000
      RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU
      TZOFFSETFROM:+0200
      TZOFFSETTO:+0100
      END:STANDARD
      BEGIN:DAYLIGHT
      DTSTART:19700329T020000
      RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU
      TZOFFSETFROM:+0100
      TZOFFSETTO:+0200
      END:DAYLIGHT
      END:VTIMEZONE
      """;

  private static final String CALLED_BY_ADA =
      """
      ORGANIZER;CN=Ada:mailto:ADA@skerrow.example
      ATTENDEE;CN=Ada:mailto:ada@skerrow.example
      ATTENDEE;CN=Cleo:mailto:cleo@skerrow.example
      SEQUENCE:4
      """;

  static String calendar(String... components) {
    return ("BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//Skerrow//Quay//EN\n"
            + String.join("", components)
            + "END:VCALENDAR\n")
        .replace("\n", "\r\n");
  }

  static String event(String uid, String lines) {
    return "BEGIN:VEVENT\nUID:%s\nDTSTAMP:20260101T000000Z\n%s\nEND:VEVENT\n"
        .formatted(uid, lines.strip());
  }

  private static Apart apart(String text) {
    return CalendarObject.apart(text, CHANGE).orElseThrow();
  }

  @Test
  public void whatIsPastStaysAsItWasWritten() {
    var text = calendar(event("a", "DTSTART:20261130T090000Z\nDTEND:20261130T100000Z"));

    assertThat(apart(text)).isEqualTo(new Apart(text, null));
  }

  @DataProvider
  public Object[][] sides() {
    return new Object[][] {
      {"DTSTART;VALUE=DATE:20261130", true},
      {"DTSTART;VALUE=DATE:20261130\nDTEND;VALUE=DATE:20261202", false},
      {"DTSTART;VALUE=DATE:20261201", false},
      {"DTSTART:20261130T220000Z\nDURATION:PT1H", true},
      {"DTSTART:20261130T220000Z\nDURATION:PT2H", false},
      {"DTSTART:20261130T230000Z", false},
      {"DTSTART:20261130T235900\nDURATION:PT1M", true},
      {"DTSTART;TZID=Europe/Oslo:20261201T000000", false},
      {"DTSTART;TZID=Europe/Oslo:20260105T090000\nRRULE:FREQ=WEEKLY;UNTIL=20261130T080000Z", true},
      {"DTSTART;TZID=Europe/Oslo:20260105T090000\nRRULE:FREQ=WEEKLY;COUNT=3", true},
      {"DTSTART;TZID=Europe/Oslo:20261207T090000\nRRULE:FREQ=WEEKLY;COUNT=3", false},
      {"DTSTART:20260105T090000\nRRULE:FREQ=HOURLY", false},
      {"DTSTART:20260105T090000\nRDATE:20270105T090000", false}
    };
  }

  @Test(dataProvider = "sides")
  public void eachLiesOnItsSideOfTheDay(String lines, boolean isPast) {
    var apart = apart(calendar(OSLO, event("a", lines)));

    assertThat(apart.past() != null).isEqualTo(isPast);
    assertThat(apart.coming() != null).isEqualTo(!isPast);
  }

  @Test
  public void tasksAreToComeUntilTheyAreDone() {
    var open = calendar("BEGIN:VTODO\nUID:t\nDTSTAMP:20260101T000000Z\nEND:VTODO\n");
    var done = open.replace("END:VTODO", "STATUS:COMPLETED\r\nEND:VTODO");

    assertThat(apart(open)).isEqualTo(new Apart(null, open));
    assertThat(apart(done)).isEqualTo(new Apart(done, null));
  }

  @Test
  public void aMeetingIsCalledByItsNewOrganizerAndNobodyIsToldUnlessWanted() {
    var text = calendar(event("a", "DTSTART:20261204T090000Z\n" + CALLED_BY_ADA));

    assertThat(apart(text).coming())
        .contains("ORGANIZER:mailto:bea@skerrow.example", "SEQUENCE:5", "UID:a")
        .contains("ATTENDEE;CN=Cleo;SCHEDULE-AGENT=NONE:mailto:cleo@skerrow.example")
        .doesNotContainIgnoringCase("ada@");
    assertThat(
            CalendarObject.apart(text, new Change(DAY, CHANGE.from(), CHANGE.to(), true))
                .orElseThrow()
                .coming())
        .contains("ATTENDEE;CN=Cleo:mailto:cleo@skerrow.example");
  }

  @Test
  public void aMeetingThatSomebodyElseCalledStaysAsItWasWritten() {
    var text =
        calendar(event("a", "DTSTART:20261204T090000Z\nORGANIZER:mailto:cleo@skerrow.example"));

    assertThat(apart(text)).isEqualTo(new Apart(null, text));
  }

  @Test
  public void aSeriesIsSplitAtTheDayWithTheExceptionsOfEachSide() {
    var apart =
        apart(
            calendar(
                OSLO,
                event(
                    "a",
                    """
                    DTSTART;TZID=Europe/Oslo:20261005T090000
                    DTEND;TZID=Europe/Oslo:20261005T103000
                    RRULE:FREQ=WEEKLY;COUNT=20;BYDAY=MO,WE
                    EXDATE;TZID=Europe/Oslo:20261207T090000
                    """
                        + CALLED_BY_ADA),
                event(
                    "a",
                    "RECURRENCE-ID;TZID=Europe/Oslo:20261109T090000\n"
                        + "DTSTART;TZID=Europe/Oslo:20261109T110000\nSUMMARY:before"),
                event(
                    "a",
                    "RECURRENCE-ID;TZID=Europe/Oslo:20261209T090000\n"
                        + "DTSTART;TZID=Europe/Oslo:20261209T110000\nSUMMARY:after")));

    assertThat(apart.past())
        .contains("UID:a-until-2026-12-01", "RELATED-TO:a\r\n", "SUMMARY:before")
        .contains("DTSTART;TZID=Europe/Oslo:20261005T090000")
        .contains("UNTIL=20261130T080000Z")
        .contains("ORGANIZER;CN=Ada:mailto:ADA@skerrow.example")
        .doesNotContain("COUNT", "SUMMARY:after");
    assertThat(apart.coming())
        .contains("UID:a\r\n", "SUMMARY:after", "ORGANIZER:mailto:bea@skerrow.example")
        .contains("DTSTART;TZID=Europe/Oslo:20261202T090000")
        .contains("DTEND;TZID=Europe/Oslo:20261202T103000")
        .contains("COUNT=3")
        .doesNotContain("SUMMARY:before", "UNTIL");
  }

  @Test
  public void whatCannotBeSplitForCertainGoesOnWhole() {
    var acrossTheDay =
        calendar(
            event("a", "DTSTART:20261005T090000Z\nRRULE:FREQ=WEEKLY"),
            event("a", "RECURRENCE-ID:20261130T090000Z\nDTSTART:20261203T090000Z"));
    var withSingleDays =
        calendar(event("a", "DTSTART:20261005T090000Z\nRRULE:FREQ=WEEKLY\nRDATE:20261208T090000Z"));

    assertThat(apart(acrossTheDay)).isEqualTo(new Apart(null, acrossTheDay));
    assertThat(apart(withSingleDays)).isEqualTo(new Apart(null, withSingleDays));
  }

  @DataProvider
  public Object[][] broken() {
    return new Object[][] {
      {"no calendar at all"},
      {calendar()},
      {calendar(event("a", "SEQUENCE:one"))},
      {calendar(event("a", "DTSTART:notadate"))},
      {calendar(event("a", "DTSTART:20260101T000000Z\nRRULE:FREQ=SOMETIMES"))}
    };
  }

  @Test(dataProvider = "broken")
  public void whatCannotBeReadIsSaidToBeSo(String text) {
    assertThat(CalendarObject.apart(text, CHANGE)).isEmpty();
  }

  /** No time it comes is lost, and none is on both sides, whatever the rule. */
  @Test
  public void aSeriesTakenApartComesAsOftenAsTheWholeOne() throws Exception {
    var random = Chance.random(7);
    int parted = 0;
    for (int i = 0; i < SERIES; i++) {
      var text = calendar(OSLO, event("a", series(random)));
      var apart = apart(text);
      var both = new ArrayList<Instant>();
      for (var half : new String[] {apart.past(), apart.coming()}) {
        if (half != null) {
          both.addAll(times(half));
        }
      }

      assertThat(both).as(text).doesNotHaveDuplicates();
      assertThat(new TreeSet<>(both)).as(text).isEqualTo(new TreeSet<>(times(text)));
      if (apart.past() != null) {
        assertThat(times(apart.past())).as(text).allMatch(time -> time.isBefore(DAY.toInstant()));
      }
      if (apart.past() != null && apart.coming() != null) {
        parted++;
        assertThat(times(apart.coming()))
            .as(text)
            .noneMatch(time -> time.isBefore(DAY.toInstant()));
      }
    }
    assertThat(parted).as("series with a past and a future").isGreaterThan(SERIES / 10);
  }

  @Test
  public void theZonesACalendarBringsAreKnownUntilItIsTakenApart() throws Exception {
    var text =
        calendar(OSLO, event("a", "DTSTART;TZID=Europe/Oslo:20261005T090000\nRRULE:FREQ=DAILY"));
    var collector =
        Thread.ofPlatform()
            .start(
                () -> {
                  for (int i = 0; i < 20; i++) {
                    System.gc();
                  }
                });

    while (collector.isAlive()) {
      assertThat(apart(text).coming()).contains("DTSTART;TZID=Europe/Oslo:20261201T090000");
    }
    collector.join();
  }

  @Test
  public void noZoneIsKeptOnceACalendarIsTakenApart() {
    var places = ZoneRulesProviderImpl.INSTANCE.getZoneIdPool();
    var text =
        calendar(OSLO, event("a", "DTSTART;TZID=Europe/Oslo:20261005T090000\nRRULE:FREQ=DAILY"));

    apart(text);
    var free = places.availableZoneIds();
    apart(text);

    assertThat(places.availableZoneIds()).isGreaterThanOrEqualTo(free);
  }

  private static String series(Random random) {
    var form = random.nextInt(4);
    var start = LocalDateTime.of(2026, 9, 1, random.nextInt(24), 30).plusDays(random.nextInt(120));
    // A rule counts from its start, which has to be one of its own days (RFC 5545, 3.8.5.3).
    var byDay = start.getDayOfWeek().name().substring(0, 2);
    var rules =
        List.of(
            "FREQ=DAILY",
            "FREQ=DAILY;INTERVAL=3",
            "FREQ=WEEKLY;BYDAY=" + byDay + ",FR",
            "FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=" + byDay,
            "FREQ=MONTHLY;BYMONTHDAY=" + start.getDayOfMonth(),
            "FREQ=YEARLY");
    var rule = rules.get(random.nextInt(rules.size()));
    var end =
        switch (random.nextInt(3)) {
          case 0 -> ";COUNT=" + (1 + random.nextInt(60));
          case 1 -> ";UNTIL=" + written(start.plusDays(random.nextInt(200)), form, true);
          default -> "";
        };
    var name = List.of(";VALUE=DATE:", ":", ":", ";TZID=Europe/Oslo:").get(form);
    return "DTSTART%s%s\nRRULE:%s%s".formatted(name, written(start, form, false), rule, end);
  }

  private static String written(LocalDateTime at, int form, boolean isUntil) {
    var text = at.toString().replaceAll("[-:]", "") + "00";
    return switch (form) {
      case 0 -> text.substring(0, 8);
      case 1 -> text;
      case 2 -> text + "Z";
      default -> isUntil ? text + "Z" : text;
    };
  }

  /** By the library's own reckoning of a whole object, for two years. */
  private static List<Instant> times(String text) throws Exception {
    var times = new ArrayList<Instant>();
    try (var reader = new CalendarReader()) {
      for (var component : reader.read(text).getComponents()) {
        if (component instanceof VEvent event) {
          Temporal start = event.<Temporal>getDateTimeStart().getDate();
          event.<Temporal>calculateRecurrenceSet(twoYears(start)).stream()
              .map(each -> instant(each.getStart()))
              .forEach(times::add);
        }
      }
    }
    return times;
  }

  private static Period<Temporal> twoYears(Temporal start) {
    var first = LocalDate.of(2026, 1, 1);
    var last = LocalDate.of(2028, 1, 1);
    return switch (start) {
      case LocalDate _ -> new Period<>(first, last);
      case LocalDateTime _ -> new Period<>(first.atStartOfDay(), last.atStartOfDay());
      default ->
          new Period<>(first.atStartOfDay(ZoneOffset.UTC), last.atStartOfDay(ZoneOffset.UTC));
    };
  }

  private static Instant instant(Temporal at) {
    return switch (at) {
      case LocalDate day -> day.atStartOfDay(DAY.getZone()).toInstant();
      case LocalDateTime wall -> wall.atZone(DAY.getZone()).toInstant();
      default -> Instant.from(at);
    };
  }
}
