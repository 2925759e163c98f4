package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;

/**
 * What an application says of itself (RFC 7644, 4). Where it says nothing, it is taken for one that
 * can do what most can.
 *
 * @param users where accounts are, as in "/Users"
 * @param groups where groups are; null if there are none
 * @param page how many resources a page holds at most
 * @param cursors whether lists are paged by cursor (RFC 9865)
 * @param together how many operations one request may hold; 0 if it may hold none
 * @param largestTogether characters of such a request
 */
record ScimFeatures(
    String users,
    String groups,
    Set<String> extensions,
    ScimAttributes attributes,
    boolean patches,
    boolean filters,
    boolean versions,
    boolean passwords,
    boolean cursors,
    int page,
    int together,
    int largestTogether) {
  private static final int USUAL_PAGE = 100;
  private static final int MOST_TOGETHER = 50;
  private static final int LARGEST_TOGETHER = 500_000;
  private static final int LARGEST_PAGE = 500;

  static ScimFeatures read(JsonHttp http) throws Unreachable {
    var config = http.find("/ServiceProviderConfig");
    var types = list(http.find("/ResourceTypes"));
    var user = type(types, "User", ScimAttributes.USER);
    var extensions = new TreeSet<String>();
    user.path("schemaExtensions").forEach(one -> extensions.add(one.path("schema").asString("")));
    if (types.isEmpty()) {
      extensions.add(ScimAttributes.ENTERPRISE);
    }
    var schemas = list(http.find("/Schemas"));
    return new ScimFeatures(
        user.path("endpoint").asString("/Users"),
        groups(types),
        extensions,
        schemas.isEmpty() ? ScimAttributes.standard() : ScimAttributes.of(schemas, extensions),
        isSupported(config, "patch"),
        isSupported(config, "filter"),
        isSupported(config, "etag"),
        isSupported(config, "changePassword"),
        config.map(one -> one.path("pagination").path("cursor").asBoolean(false)).orElse(false),
        page(config),
        bulk(config, "maxOperations", MOST_TOGETHER),
        bulk(config, "maxPayloadSize", LARGEST_TOGETHER));
  }

  /** What an application says of requests that hold several; 0 if it takes none. */
  private static int bulk(Optional<JsonNode> config, String limit, int ours) {
    var bulk = config.map(one -> one.path("bulk")).orElseGet(JsonHttp.JSON::missingNode);
    return bulk.path("supported").asBoolean(false)
        ? Math.min(ours, bulk.path(limit).asInt(ours))
        : 0;
  }

  private static List<JsonNode> list(Optional<JsonNode> answer) {
    var all = new ArrayList<JsonNode>();
    answer.ifPresent(one -> (one.isArray() ? one : one.path("Resources")).forEach(all::add));
    return all;
  }

  private static JsonNode type(List<JsonNode> types, String name, String schema) {
    return types.stream()
        .filter(
            type ->
                type.path("schema").asString("").equals(schema)
                    || type.path("name").asString("").equals(name))
        .findFirst()
        .orElseGet(JsonHttp.JSON::missingNode);
  }

  private static String groups(List<JsonNode> types) {
    if (types.isEmpty()) {
      return "/Groups";
    }
    return type(types, "Group", "urn:ietf:params:scim:schemas:core:2.0:Group")
        .path("endpoint")
        .asString(null);
  }

  private static boolean isSupported(Optional<JsonNode> config, String what) {
    return config.map(one -> one.path(what).path("supported").asBoolean(true)).orElse(true);
  }

  private static int page(Optional<JsonNode> config) {
    var most =
        config
            .map(
                one ->
                    one.path("pagination")
                        .path("maxPageSize")
                        .asInt(one.path("filter").path("maxResults").asInt(USUAL_PAGE)))
            .orElse(USUAL_PAGE);
    return most <= 0 ? USUAL_PAGE : Math.min(most, LARGEST_PAGE);
  }
}
