package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ebb.core.imports.Mapping;
import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.store.push.Resource;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.StreamSupport;

/**
 * The columns of a delivery of pushed people: one for each attribute under its own name, and others
 * that nobody uses until they are mapped.
 */
final class PushedColumns {
  static final String KEY = "key";
  private static final String ID = "id";
  private static final String TEL = "tel:";

  /** Tells one delivery from another where somebody is as they were before. */
  private static final String VERSION = "version";

  private static final List<String> OTHERS =
      List.of(
          ID,
          VERSION,
          "externalId",
          "userName",
          "active",
          "name.formatted",
          "name.middleName",
          "name.honorificPrefix",
          "name.honorificSuffix",
          "nickName",
          "preferredLanguage",
          "locale",
          "organization",
          "division",
          "costCenter",
          "emails.work",
          "emails.other",
          "phoneNumbers.work",
          "phoneNumbers.home",
          "phoneNumbers.other",
          "addresses.work.locality",
          "addresses.work.country",
          "addresses.home.locality",
          "addresses.home.country");

  /**
   * How deliveries are read: each attribute from the column of its name, unless somebody said
   * otherwise. What is said already stays.
   *
   * @param before null if nothing was said yet; what was said of files is nothing said of pushes
   */
  static Mapping mapping(Mapping before, Catalogue catalogue) {
    var columns = new TreeMap<String, String>();
    var ignored = new TreeSet<String>();
    var filled = new TreeSet<String>();
    var isOfPushes = before != null && before.key().equals(KEY);
    if (isOfPushes) {
      columns.putAll(before.columns());
      ignored.addAll(before.ignored());
      filled.addAll(before.attributes());
    }
    fill(Mapping.FORMER_KEY, columns, ignored, filled);
    fill(Mapping.GONE, columns, ignored, filled);
    catalogue.all().stream()
        .map(Attribute::name)
        .forEach(name -> fill(name, columns, ignored, filled));
    OTHERS.stream().filter(name -> !columns.containsKey(name)).forEach(ignored::add);
    return isOfPushes
        ? new Mapping(
            KEY, columns, ignored, before.dateFormat(), before.computed(), before.tables())
        : new Mapping(KEY, columns, ignored, null);
  }

  private static void fill(
      String name,
      TreeMap<String, String> columns,
      TreeSet<String> ignored,
      TreeSet<String> filled) {
    if (columns.containsKey(name) || ignored.contains(name)) {
      return;
    }
    if (filled.add(name)) {
      columns.put(name, name);
    } else {
      ignored.add(name);
    }
  }

  static List<String> headings(Mapping mapping) {
    var headings = new ArrayList<>(List.of(KEY));
    headings.addAll(mapping.columns().keySet());
    headings.addAll(mapping.ignored());
    return headings;
  }

  /**
   * What stands in the columns.
   *
   * @param keyOf the key of the person that a manager's id is; the text itself if it is nobody's
   */
  static List<String> row(
      List<String> headings, Resource person, ObjectNode body, UnaryOperator<String> keyOf) {
    return headings.stream().map(heading -> cell(heading, person, body, keyOf)).toList();
  }

  private static String cell(
      String heading, Resource person, ObjectNode body, UnaryOperator<String> keyOf) {
    return switch (heading) {
      case KEY -> person.key();
      case ID -> person.id();
      case VERSION -> Long.toString(person.version());
      case Mapping.FORMER_KEY -> person.formerKey() == null ? "" : person.formerKey();
      case Mapping.GONE -> isGone(person, body) ? "yes" : "";
      case Attributes.MANAGER -> {
        var manager = text(heading + ".value", body);
        yield manager.isEmpty() ? "" : keyOf.apply(manager);
      }
      default -> text(heading, body);
    };
  }

  /**
   * Somebody deleted is gone, and so is somebody said not to be active, unless their last day is
   * said, too: that says it better.
   */
  static boolean isGone(Resource person, ObjectNode body) {
    return person.deleted()
        || (!body.path("active").asBoolean(true) && text(Attributes.END_DATE, body).isEmpty());
  }

  private static String text(String name, ObjectNode body) {
    var schema = PushSchemas.schemaOf(name);
    JsonNode node =
        schema.equals(PushSchemas.USER) || name.equals(ResourceCheck.EXTERNAL_ID)
            ? body
            : body.path(schema);
    for (var part : name.split("\\.")) {
      node = node.isArray() ? ofType(node, part) : node.path(part);
    }
    var text = node.isObject() ? node.path("value").asText("") : node.asText("");
    return name.startsWith("phoneNumbers.") ? plainNumber(text) : text;
  }

  /**
   * Numbers come as tel: URIs (RFC 7643, section 4.1.2; RFC 3966), whose parameters are no part of
   * them.
   */
  private static String plainNumber(String text) {
    if (!text.regionMatches(true, 0, TEL, 0, TEL.length())) {
      return text;
    }
    var end = text.indexOf(';');
    return text.substring(TEL.length(), end < 0 ? text.length() : end);
  }

  private static JsonNode ofType(JsonNode list, String type) {
    return StreamSupport.stream(list.spliterator(), false)
        .filter(one -> one.path("type").asText("").equalsIgnoreCase(type))
        .findFirst()
        .orElseGet(() -> list.path("none"));
  }

  private PushedColumns() {}
}
