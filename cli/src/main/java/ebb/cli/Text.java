package ebb.cli;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

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

  /** As a sentence begins. */
  static String begun(String word) {
    return word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1);
  }

  private Text() {}
}
