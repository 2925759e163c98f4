package ebb.cli;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;

/** Values in words. */
final class Text {
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss z");

  /** In the reader's zone, which is named; empty for null. */
  static String time(Instant instant) {
    return instant == null ? "" : TIME.format(instant.atZone(ZoneId.systemDefault()));
  }

  static String orDash(Object value) {
    return value == null || value.toString().isEmpty() ? "-" : value.toString();
  }

  private Text() {}
}
