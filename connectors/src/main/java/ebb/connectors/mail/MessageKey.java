package ebb.connectors.mail;

import java.util.regex.Pattern;

/** A message on its server, for as long as its folder keeps its numbers (as in RFC 5092). */
record MessageKey(String folder, long validity, long uid) {
  private static final Pattern FORM =
      Pattern.compile("(.*);UIDVALIDITY=(\\d+)/;UID=(\\d+)", Pattern.DOTALL);

  String text() {
    return "%s;UIDVALIDITY=%d/;UID=%d".formatted(folder, validity, uid);
  }

  /**
   * @throws IllegalArgumentException if it is no such text
   */
  static MessageKey of(String text) {
    var parts = FORM.matcher(text);
    if (!parts.matches()) {
      throw new IllegalArgumentException("No message is called " + text);
    }
    return new MessageKey(
        parts.group(1), Long.parseLong(parts.group(2)), Long.parseLong(parts.group(3)));
  }
}
