package ebb.connectors.dav;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * What is the same of calendar data however a server writes it down. The order of lines and
 * parameters, where lines are folded, quotes that need not be, and whether a semicolon in a text is
 * escaped may differ (RFC 5545, 3.1 and 3.3.11).
 */
final class CalendarPrint {
  private static final String OURS = "X-EBB-PRINT";

  /** What comes between names and values; no line holds it. */
  private static final String BREAK = "\n";

  /** SHA-256 in hex. It need not be well-formed, and what Ebb noted in it is not looked at. */
  static String of(String text) {
    var open = new ArrayDeque<List<String>>();
    open.push(new ArrayList<>());
    for (var line : unfolded(text)) {
      if (line.regionMatches(true, 0, "BEGIN:", 0, 6)) {
        open.push(new ArrayList<>());
        open.peek().add(line.toUpperCase(Locale.ROOT));
      } else if (line.regionMatches(true, 0, "END:", 0, 4) && open.size() > 1) {
        close(open);
      } else if (!line.isEmpty() && !isOurs(line)) {
        open.peek().add(same(line));
      }
    }
    while (open.size() > 1) {
      close(open);
    }
    return sha256(joined(open.peek()));
  }

  /** Of two together. */
  static String both(String one, String other) {
    return sha256(one + other);
  }

  private static void close(Deque<List<String>> open) {
    var inside = joined(open.pop());
    open.peek().add("{" + inside + "}");
  }

  private static String joined(List<String> lines) {
    return lines.stream().sorted().collect(Collectors.joining(BREAK));
  }

  static String noteName() {
    return OURS;
  }

  /** Whether Ebb put it there, and nobody changed it since. */
  static boolean isAsNoted(String text) {
    var print = of(text);
    return unfolded(text).stream().anyMatch(line -> isOurs(line) && line.endsWith(":" + print));
  }

  private static boolean isOurs(String line) {
    return line.regionMatches(true, 0, OURS, 0, OURS.length());
  }

  private static List<String> unfolded(String text) {
    return text.replaceAll("\r?\n[ \t]", "").lines().toList();
  }

  private static String same(String line) {
    var parts = split(line, ':', 2);
    var named = split(parts.getFirst(), ';', Integer.MAX_VALUE);
    var parameters =
        named.stream()
            .skip(1)
            .map(CalendarPrint::parameter)
            .sorted()
            .collect(Collectors.joining(BREAK));
    var value = parts.size() == 1 ? "" : parts.getLast().replace("\\;", ";").replace("\\N", "\\n");
    return named.getFirst().toUpperCase(Locale.ROOT) + BREAK + parameters + BREAK + value;
  }

  private static String parameter(String text) {
    var parts = split(text, '=', 2);
    var value = parts.size() == 1 ? "" : parts.getLast().replace("\"", "");
    return parts.getFirst().toUpperCase(Locale.ROOT) + "=" + value;
  }

  /** At a mark that is not quoted. */
  private static List<String> split(String text, char mark, int most) {
    var parts = new ArrayList<String>();
    var isQuoted = false;
    var from = 0;
    for (int i = 0; i < text.length() && parts.size() < most - 1; i++) {
      var c = text.charAt(i);
      isQuoted ^= c == '"';
      if (c == mark && !isQuoted) {
        parts.add(text.substring(from, i));
        from = i + 1;
      }
    }
    parts.add(text.substring(from));
    return parts;
  }

  private static String sha256(String text) {
    try {
      var digest = MessageDigest.getInstance("SHA-256");
      return HexFormat.of().formatHex(digest.digest(text.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java has SHA-256", e);
    }
  }

  private CalendarPrint() {}
}
