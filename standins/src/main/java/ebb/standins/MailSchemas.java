package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What the mail and document house says of itself (RFC 7643, sections 5 to 7). */
final class MailSchemas {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  /** The house's own extension: where somebody sits, and how much they may keep. */
  static final String HOUSE = "urn:skerrow:params:scim:schemas:extension:house:1.0:User";

  private static final String CORE = "urn:ietf:params:scim:schemas:core:2.0:";
  private static final Set<String> KNOWN = names(schemas(true));

  static JsonNode serviceProviderConfig(Manners manners) {
    var config = MailHouse.JSON.createObjectNode();
    config.putArray("schemas").add(CORE + "ServiceProviderConfig");
    config.putObject("patch").put("supported", manners.patches);
    config
        .putObject("bulk")
        .put("supported", manners.bulk)
        .put("maxOperations", manners.bulk ? 100 : 0)
        .put("maxPayloadSize", manners.bulk ? 1_048_576 : 0);
    config
        .putObject("filter")
        .put("supported", manners.filters)
        .put("maxResults", manners.largestPage);
    config.putObject("changePassword").put("supported", true);
    config.putObject("sort").put("supported", false);
    config.putObject("etag").put("supported", manners.versions);
    config
        .putObject("pagination")
        .put("cursor", manners.cursors)
        .put("index", !manners.cursors)
        .put("defaultPaginationMethod", manners.cursors ? "cursor" : "index")
        .put("maxPageSize", manners.largestPage);
    var schemes = config.putArray("authenticationSchemes");
    schemes.addObject().put("type", "oauthbearertoken").put("name", "Bearer");
    schemes.addObject().put("type", "oauth2").put("name", "Client credentials");
    schemes.addObject().put("type", "httpbasic").put("name", "Basic");
    return config;
  }

  static JsonNode resourceTypes() {
    var list = list();
    var user = type(list, "User", "/Users", USER);
    for (var extension : List.of(ENTERPRISE, HOUSE)) {
      user.withArray("schemaExtensions")
          .addObject()
          .put("schema", extension)
          .put("required", false);
    }
    type(list, "Group", "/Groups", GROUP);
    return list.put("totalResults", 2);
  }

  private static ObjectNode type(ObjectNode list, String name, String endpoint, String schema) {
    return list.withArray("Resources")
        .addObject()
        .put("id", name)
        .put("name", name)
        .put("endpoint", endpoint)
        .put("schema", schema);
  }

  /**
   * @param showsGroups whether users show the groups they are in
   */
  static JsonNode schemas(boolean showsGroups) {
    var list = list();
    var resources = list.withArray("Resources");
    var user = schema(resources, USER, "User");
    text(user, "userName", false).put("required", true).put("uniqueness", "server");
    text(user, "displayName", false);
    text(user, "title", false);
    text(user, "userType", false);
    text(user, "timezone", false);
    text(user, "locale", false);
    text(user, "password", true).put("mutability", "writeOnly").put("returned", "never");
    attribute(user, "active", "boolean");
    var name = complex(user, "name", false);
    text(name, "givenName", false);
    text(name, "familyName", false);
    text(name, "formatted", false);
    for (var many : List.of("emails", "phoneNumbers", "roles", "entitlements")) {
      var values = complex(user, many, true);
      text(values, "value", false);
      text(values, "type", false);
      text(values, "display", false);
      attribute(values, "primary", "boolean");
    }
    if (showsGroups) {
      var groups = complex(user, "groups", true);
      text(groups, "value", true).put("mutability", "readOnly");
      text(groups, "display", false).put("mutability", "readOnly");
    }
    var group = schema(resources, GROUP, "Group");
    text(group, "displayName", false).put("required", true);
    text(complex(group, "members", true), "value", true);
    var enterprise = schema(resources, ENTERPRISE, "EnterpriseUser");
    text(enterprise, "employeeNumber", true);
    text(enterprise, "department", false);
    text(enterprise, "division", false);
    text(complex(enterprise, "manager", false), "value", true);
    var house = schema(resources, HOUSE, "HouseUser");
    text(house, "room", false);
    attribute(house, "mailQuota", "integer");
    text(house, "enteredBy", false).put("mutability", "readOnly");
    return list.put("totalResults", resources.size());
  }

  /**
   * What a strict house looks for.
   *
   * @throws BadRequestException if the account has what no schema names, or lacks a family name
   */
  static void check(ObjectNode user) throws ScimException {
    for (var names = user.fieldNames(); names.hasNext(); ) {
      var name = names.next();
      if (!KNOWN.contains(name)) {
        throw new BadRequestException(
            "No schema has " + name, BadRequestException.INVALID_SYNTAX, null);
      }
    }
    if (user.path("name").path("familyName").asText("").isEmpty()) {
      throw new BadRequestException(
          "name.familyName is required", BadRequestException.INVALID_VALUE, null);
    }
    var mains = 0;
    for (var email : user.path("emails")) {
      mains += email.path("primary").asBoolean() ? 1 : 0;
    }
    if (mains > 1) {
      throw new BadRequestException(
          "One address can be primary", BadRequestException.INVALID_VALUE, null);
    }
  }

  private static Set<String> names(JsonNode schemas) {
    var names = new HashSet<>(Set.of("schemas", "id", "externalId", "meta", "deleted"));
    for (var schema : schemas.path("Resources")) {
      names.add(schema.path("id").asText());
      if (schema.path("id").asText().equals(USER)) {
        schema.path("attributes").forEach(one -> names.add(one.path("name").asText()));
      }
    }
    return names;
  }

  private static ObjectNode list() {
    var list = MailHouse.JSON.createObjectNode();
    list.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:ListResponse");
    list.putArray("Resources");
    return list;
  }

  private static ArrayNode schema(ArrayNode resources, String id, String name) {
    return resources.addObject().put("id", id).put("name", name).putArray("attributes");
  }

  private static ObjectNode text(ArrayNode attributes, String name, boolean caseExact) {
    return attribute(attributes, name, "string").put("caseExact", caseExact);
  }

  private static ObjectNode attribute(ArrayNode attributes, String name, String type) {
    return attributes
        .addObject()
        .put("name", name)
        .put("type", type)
        .put("multiValued", false)
        .put("required", false)
        .put("mutability", "readWrite")
        .put("returned", "default");
  }

  private static ArrayNode complex(ArrayNode attributes, String name, boolean multiValued) {
    return attribute(attributes, name, "complex")
        .put("multiValued", multiValued)
        .putArray("subAttributes");
  }

  private MailSchemas() {}
}
