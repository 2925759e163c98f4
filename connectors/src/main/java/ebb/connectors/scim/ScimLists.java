package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.core.application.Unreachable;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;

/** Reads lists page by page, by index (RFC 7644, 3.4.2.4) or by cursor (RFC 9865). */
final class ScimLists {
  private final JsonHttp http;
  private final ScimFeatures features;
  private final ScimProblems problems;

  ScimLists(JsonHttp http, ScimFeatures features, ScimProblems problems) {
    this.http = http;
    this.features = features;
    this.problems = problems;
  }

  /**
   * All resources, holding one page at a time.
   *
   * @param query more of it, as in "&excludedAttributes=members"; may be empty
   */
  void each(String endpoint, String query, Consumer<JsonNode> each) throws Unreachable {
    if (features.cursors()) {
      byCursor(endpoint, query, each);
    } else {
      byIndex(endpoint, query, each);
    }
  }

  private void byIndex(String endpoint, String query, Consumer<JsonNode> each) throws Unreachable {
    int have = 0;
    int total = 1;
    var before = List.<String>of();
    while (have < total) {
      var page =
          http.get(
              "%s?startIndex=%d&count=%d%s".formatted(endpoint, have + 1, features.page(), query));
      total = page.path("totalResults").asInt();
      var resources = page.path("Resources");
      if (resources.isEmpty() && have < total) {
        throw new Unreachable(problems.cutShort(have, total), null);
      }
      before = anew(resources, before, have);
      resources.forEach(each);
      have += resources.size();
    }
  }

  private void byCursor(String endpoint, String query, Consumer<JsonNode> each) throws Unreachable {
    int have = 0;
    int total = 0;
    var before = List.<String>of();
    var next = Optional.of("");
    while (next.isPresent()) {
      var page =
          http.get(
              "%s?cursor=%s&count=%d%s"
                  .formatted(endpoint, encoded(next.get()), features.page(), query));
      total = page.path("totalResults").asInt(total);
      before = anew(page.path("Resources"), before, have);
      page.path("Resources").forEach(each);
      have += page.path("Resources").size();
      next = Optional.of(page.path("nextCursor").asString("")).filter(text -> !text.isEmpty());
    }
    if (have < total) {
      throw new Unreachable(problems.cutShort(have, total), null);
    }
  }

  /** The ids of a page, which must not all be those of the page before. */
  private List<String> anew(JsonNode resources, List<String> before, int have) throws Unreachable {
    var ids = new ArrayList<String>();
    resources.forEach(one -> ids.add(one.path("id").asString("")));
    if (!ids.isEmpty() && before.containsAll(ids)) {
      throw new Unreachable(problems.repeats(have), null);
    }
    return ids;
  }

  /**
   * The resources with this value; asked for where the application can look them up, found among
   * all where it cannot.
   *
   * @param query more of it; may be empty
   */
  List<JsonNode> having(String endpoint, String attribute, String value, String query)
      throws Unreachable {
    if (features.filters()) {
      var filter = "%s eq %s".formatted(attribute, JsonHttp.JSON.writeValueAsString(value));
      var cursor = features.cursors() ? "&cursor=" : "";
      return http.get("%s?filter=%s%s%s".formatted(endpoint, encoded(filter), cursor, query))
          .path("Resources")
          .valueStream()
          .toList();
    }
    var found = new ArrayList<JsonNode>();
    each(
        endpoint,
        query,
        one -> {
          if (value.equalsIgnoreCase(one.path(attribute).asString(null))) {
            found.add(one);
          }
        });
    return found;
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }
}
