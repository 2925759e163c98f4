package ebb.cli;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;

/** Values in words. */
final class Text {
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss z");

  /** In the reader's zone, which is named; empty for null. */
  static String time(Instant instant) {
    return instant == null ? "" : TIME.format(instant.atZone(ZoneId.systemDefault()));
  }

  /** 1 row, 12,000 rows. */
  static String count(long count, String one, String many) {
    return String.format(Locale.ROOT, "%,d %s", count, count == 1 ? one : many);
  }

  static String orDash(Object value) {
    return value == null || value.toString().isEmpty() ? "-" : value.toString();
  }

  /** As a sentence begins. */
  static String begun(String word) {
    return word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1);
  }

  /** In units of a thousand, as storage is sold. */
  static String bytes(long bytes) {
    var size = (double) bytes;
    var units = List.of("B", "kB", "MB", "GB", "TB");
    var unit = 0;
    while (size >= 1_000 && unit < units.size() - 1) {
      size /= 1_000;
      unit++;
    }
    return unit == 0 ? bytes + " B" : "%.1f %s".formatted(size, units.get(unit));
  }

  private Text() {}
}
