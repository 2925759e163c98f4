package ebb.connectors.mail;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import java.util.regex.Pattern;

/** By what a message is known everywhere (RFC 5322, 3.6.4). */
final class MessageId {
  private static final Pattern FIELD =
      Pattern.compile("(?im)^message-id:[ \\t]*((?:.*(?:\\r?\\n[ \\t].*)*))$");

  /**
   * @param header the fields of a message, or some of them
   */
  static Optional<String> of(byte[] header) {
    var found = FIELD.matcher(new String(header, StandardCharsets.ISO_8859_1));
    return found.find()
        ? Optional.of(found.group(1).replaceAll("\\s+", "")).filter(id -> !id.isEmpty())
        : Optional.empty();
  }

  /** The fields before the text of a message, or before where it was cut off. */
  static byte[] header(byte[] message) {
    for (int i = 0; i + 3 < message.length; i++) {
      if (message[i] == '\r'
          && message[i + 1] == '\n'
          && message[i + 2] == '\r'
          && message[i + 3] == '\n') {
        return Arrays.copyOf(message, i);
      }
    }
    return message;
  }

  private MessageId() {}
}
