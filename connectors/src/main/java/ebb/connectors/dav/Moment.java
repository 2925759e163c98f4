package ebb.connectors.dav;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.Temporal;
import net.fortuna.ical4j.model.property.DateProperty;

/**
 * When something happens by the clock of its place, and how that is written (RFC 5545, 3.3.4 and
 * 3.3.5).
 *
 * @param zone of the place; that of whoever looks, for days and where none is said
 */
record Moment(LocalDateTime wall, ZoneId zone, Form form) {
  private static final DateTimeFormatter DAY = DateTimeFormatter.BASIC_ISO_DATE;
  private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");

  enum Form {
    DAY,
    ANYWHERE,
    IN_A_ZONE,
    UTC
  }

  static Moment of(DateProperty<?> property, ZoneId here) {
    return of((Temporal) property.getDate(), here);
  }

  private static Moment of(Temporal at, ZoneId here) {
    return switch (at) {
      case LocalDate day -> new Moment(day.atStartOfDay(), here, Form.DAY);
      case LocalDateTime wall -> new Moment(wall, here, Form.ANYWHERE);
      case ZonedDateTime zoned ->
          new Moment(zoned.toLocalDateTime(), zoned.getZone(), Form.IN_A_ZONE);
      default ->
          new Moment(
              LocalDateTime.ofInstant(Instant.from(at), ZoneOffset.UTC), ZoneOffset.UTC, Form.UTC);
    };
  }

  boolean isBefore(ZonedDateTime day) {
    return wall.isBefore(byItsClock(day));
  }

  /** A day begins where one is. */
  LocalDateTime byItsClock(ZonedDateTime day) {
    return form == Form.DAY || form == Form.ANYWHERE
        ? day.toLocalDateTime()
        : day.withZoneSameInstant(zone).toLocalDateTime();
  }

  /** Another time, written as this one. */
  String written(LocalDateTime other) {
    return switch (form) {
      case DAY -> DAY.format(other);
      case UTC -> LOCAL.format(other) + "Z";
      default -> LOCAL.format(other);
    };
  }

  /** As the end of a rule is written (RFC 5545, 3.3.10): of a zone, in UTC. */
  String until(LocalDateTime last) {
    return form == Form.IN_A_ZONE
        ? LOCAL.format(last.atZone(zone).withZoneSameInstant(ZoneOffset.UTC)) + "Z"
        : written(last);
  }

  /** The end of a rule by its clock. */
  LocalDateTime until(String written) {
    if (!written.contains("T")) {
      return LocalDate.parse(written, DAY).atTime(23, 59, 59);
    }
    return written.endsWith("Z")
        ? LocalDateTime.parse(written.substring(0, written.length() - 1), LOCAL)
            .atZone(ZoneOffset.UTC)
            .withZoneSameInstant(zone)
            .toLocalDateTime()
        : LocalDateTime.parse(written, LOCAL);
  }
}
