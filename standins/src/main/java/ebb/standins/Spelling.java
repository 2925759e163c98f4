package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Locale;
import java.util.Optional;

/** How an application spells what it is told: an account read back is not word for word as sent. */
final class Spelling {
  static void normalise(ObjectNode user) {
    lower(user, "userName");
    squeeze(user, "displayName");
    squeeze(user, "title");
    user.path("emails").forEach(email -> lower((ObjectNode) email, "value"));
    for (var phone : user.path("phoneNumbers")) {
      text(phone, "value")
          .ifPresent(
              number -> ((ObjectNode) phone).put("value", number.replaceAll("[\\s().-]", "")));
    }
  }

  private static void lower(ObjectNode node, String field) {
    text(node, field).ifPresent(text -> node.put(field, text.toLowerCase(Locale.ROOT)));
  }

  private static void squeeze(ObjectNode node, String field) {
    text(node, field).ifPresent(text -> node.put(field, text.strip().replaceAll("\\s+", " ")));
  }

  private static Optional<String> text(JsonNode node, String field) {
    return node.path(field).isTextual() ? Optional.of(node.path(field).asText()) : Optional.empty();
  }

  private Spelling() {}
}
