package ebb.connectors.dav;

import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.time.temporal.Temporal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.component.CalendarComponent;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.component.VTimeZone;
import net.fortuna.ical4j.model.component.VToDo;
import net.fortuna.ical4j.model.parameter.ScheduleAgent;
import net.fortuna.ical4j.model.property.DateProperty;
import net.fortuna.ical4j.model.property.RelatedTo;
import net.fortuna.ical4j.model.property.Sequence;
import net.fortuna.ical4j.model.property.XProperty;

/**
 * One event, task or entry with all its exceptions (RFC 4791, 4.1), taken apart at a day. What need
 * not be changed stays as it was written, byte for byte.
 */
final class CalendarObject {
  private static final Set<String> ENDED = Set.of("COMPLETED", "CANCELLED");

  private final CalendarReader reader;
  private final String text;
  private final Change change;

  /**
   * @param day from which on somebody else answers for what is to come
   * @param from the address of whoever did
   * @param to the address of whoever does from then on
   * @param tells whether a server that tells attendees of changes is to do so (RFC 6638, 7.1)
   */
  record Change(ZonedDateTime day, String from, String to, boolean tells) {}

  /**
   * @param past null if there is nothing of it
   * @param coming null if there is nothing of it
   */
  record Apart(String past, String coming) {}

  private CalendarObject(CalendarReader reader, String text, Change change) {
    this.reader = reader;
    this.text = text;
    this.change = change;
  }

  /**
   * @return empty if it cannot be read
   */
  static Optional<Apart> apart(String text, Change change) {
    try (var reader = new CalendarReader()) {
      return Optional.of(new CalendarObject(reader, text, change).apart());
    } catch (ParserException
        | DateTimeException
        | IllegalArgumentException
        | UnsupportedOperationException e) {
      return Optional.empty();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Calendar read() throws IOException, ParserException {
    return reader.read(text);
  }

  private static List<CalendarComponent> entries(Calendar calendar) {
    return calendar.getComponents().stream()
        .map(CalendarComponent.class::cast)
        .filter(one -> !(one instanceof VTimeZone))
        .toList();
  }

  private Apart apart() throws IOException, ParserException {
    var entries = entries(read());
    if (entries.isEmpty()) {
      throw new IllegalArgumentException("Nothing is in it");
    }
    var first = entries.stream().filter(CalendarObject::isMain).findFirst();
    var repetition = first.flatMap(this::repetition);
    if (repetition.isPresent() && isToBeSplit(entries, repetition.get())) {
      return split(repetition.get());
    }
    return entries.stream().anyMatch(this::isToCome)
        ? new Apart(null, handedOn())
        : new Apart(text, null);
  }

  private static boolean isMain(CalendarComponent entry) {
    return entry.getProperty(Property.RECURRENCE_ID).isEmpty();
  }

  private Optional<Repetition> repetition(CalendarComponent entry) {
    return entry
        .getProperty(Property.RRULE)
        .flatMap(
            rule ->
                moment(entry, Property.DTSTART)
                    .map(start -> new Repetition(start, rule.getValue())));
  }

  private Optional<Moment> moment(CalendarComponent entry, String property) {
    return entry
        .getProperty(property)
        .map(one -> Moment.of((DateProperty<?>) one, change.day().getZone()));
  }

  /**
   * Only where each time it comes is for certain on one side: single days that were added, and one
   * time that was put off across the day, leave it whole.
   */
  private boolean isToBeSplit(List<CalendarComponent> entries, Repetition repetition) {
    return entries.stream().allMatch(VEvent.class::isInstance)
        && entries.stream().filter(CalendarObject::isMain).count() == 1
        && entries.stream().allMatch(one -> one.getProperties(Property.RDATE).isEmpty())
        && entries.stream().allMatch(one -> one.getProperties(Property.RRULE).size() <= 1)
        && repetition.isByDays()
        && entries.stream().filter(one -> !isMain(one)).allMatch(this::isOnOneSide)
        && !repetition.before(change.day()).isEmpty()
        && repetition.next(change.day()).isPresent();
  }

  private boolean isOnOneSide(CalendarComponent exception) {
    var recurrence = exception.getProperty(Property.RECURRENCE_ID).orElseThrow();
    return recurrence.getParameter("RANGE").isEmpty()
        && isBefore(exception, Property.RECURRENCE_ID) == isBefore(exception, Property.DTSTART);
  }

  private boolean isBefore(CalendarComponent entry, String property) {
    return moment(entry, property).map(at -> at.isBefore(change.day())).orElse(false);
  }

  private boolean isToCome(CalendarComponent entry) {
    return switch (entry) {
      case VToDo task ->
          task.getProperty(Property.COMPLETED).isEmpty()
              && task.getProperty(Property.STATUS)
                  .map(Property::getValue)
                  .filter(ENDED::contains)
                  .isEmpty();
      case VEvent event -> isToCome(event);
      default -> false;
    };
  }

  private boolean isToCome(VEvent event) {
    var repetition = repetition(event);
    if (repetition.isPresent()) {
      return !repetition.get().isByDays() || repetition.get().next(change.day()).isPresent();
    }
    // Single days that were added may be any.
    return !event.getProperties(Property.RDATE).isEmpty() || !isOver(event);
  }

  private boolean isOver(VEvent event) {
    if (!isBefore(event, Property.DTSTART)) {
      return false;
    }
    return event
        .<Temporal>getEndDate(true)
        .map(end -> Moment.of(end, change.day().getZone()))
        .map(end -> !end.wall().isAfter(end.byItsClock(change.day())))
        .orElse(true);
  }

  private Apart split(Repetition repetition) throws IOException, ParserException {
    var before = repetition.before(change.day());
    return new Apart(
        past(repetition.endingWith(before.getLast())),
        coming(repetition.without(before.size()), repetition.next(change.day()).orElseThrow()));
  }

  /** Under a name of its own: whoever was invited knows what is to come by the old one. */
  private String past(String rule) throws IOException, ParserException {
    var calendar = read();
    for (var entry : entries(calendar)) {
      var uid = entry.getUid().orElseThrow(() -> new IllegalArgumentException("It has no UID"));
      if (!isMain(entry) && !isBefore(entry, Property.RECURRENCE_ID)) {
        calendar.remove(entry);
      }
      if (isMain(entry)) {
        entry.getProperty(Property.RRULE).orElseThrow().setValue(rule);
      }
      entry.add(new RelatedTo(uid.getValue()));
      uid.setValue("%s-until-%s".formatted(uid.getValue(), change.day().toLocalDate()));
    }
    return written(calendar);
  }

  private String coming(String rule, LocalDateTime next) throws IOException, ParserException {
    var calendar = read();
    for (var entry : entries(calendar)) {
      if (!isMain(entry) && isBefore(entry, Property.RECURRENCE_ID)) {
        calendar.remove(entry);
      }
      if (isMain(entry)) {
        entry.getProperty(Property.RRULE).orElseThrow().setValue(rule);
        var start = moment(entry, Property.DTSTART).orElseThrow();
        var days = ChronoUnit.DAYS.between(start.wall().toLocalDate(), next.toLocalDate());
        moveBy(entry, Property.DTSTART, days);
        moveBy(entry, Property.DTEND, days);
      }
    }
    entries(calendar).forEach(this::handOn);
    return noted(calendar);
  }

  private void moveBy(CalendarComponent entry, String property, long days) {
    moment(entry, property)
        .ifPresent(
            at ->
                entry
                    .getProperty(property)
                    .orElseThrow()
                    .setValue(at.written(at.wall().plusDays(days))));
  }

  private String handedOn() throws IOException, ParserException {
    var calendar = read();
    var isChanged = false;
    for (var entry : entries(calendar)) {
      isChanged |= handOn(entry);
    }
    return isChanged ? noted(calendar) : text;
  }

  /**
   * RFC 5546, 3.2.2.6: a new organizer keeps the name of the meeting and counts its sequence on.
   *
   * @return false if somebody else had called it, or nobody
   */
  private boolean handOn(CalendarComponent entry) {
    var organizer = entry.getProperty(Property.ORGANIZER).filter(one -> is(one, change.from()));
    if (organizer.isEmpty()) {
      return false;
    }
    organizer.get().removeAll("CN", "SENT-BY", "DIR", "EMAIL");
    organizer.get().setValue("mailto:" + change.to());
    List<Property> attendees = entry.getProperties(Property.ATTENDEE);
    for (var attendee : attendees) {
      if (is(attendee, change.from()) || is(attendee, change.to())) {
        entry.remove(attendee);
      } else if (!change.tells()) {
        attendee.removeAll("SCHEDULE-AGENT");
        attendee.add(ScheduleAgent.NONE);
      }
    }
    var sequence =
        entry.getProperty(Property.SEQUENCE).map(Property::getValue).map(Integer::parseInt);
    entry.removeAll(Property.SEQUENCE);
    entry.add(new Sequence(sequence.orElse(0) + 1));
    return true;
  }

  private static boolean is(Property address, String mail) {
    return address.getValue().equalsIgnoreCase("mailto:" + mail);
  }

  /** So that it can be told whether anybody changed it since. */
  private static String noted(Calendar calendar) throws IOException {
    var print = CalendarPrint.of(written(calendar));
    entries(calendar).getFirst().add(new XProperty(CalendarPrint.noteName(), print));
    return written(calendar);
  }

  private static String written(Calendar calendar) throws IOException {
    var text = new StringWriter();
    new CalendarOutputter(false).output(calendar, text);
    return text.toString();
  }
}
