package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;

/** What the mail and document house says of itself (RFC 7643, sections 5 and 7). */
final class MailSchemas {
  static JsonNode serviceProviderConfig() {
    var config = MailHouse.JSON.createObjectNode();
    config.putArray("schemas").add("urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig");
    config.putObject("patch").put("supported", true);
    config
        .putObject("bulk")
        .put("supported", false)
        .put("maxOperations", 0)
        .put("maxPayloadSize", 0);
    config.putObject("filter").put("supported", true).put("maxResults", 100);
    config.putObject("changePassword").put("supported", true);
    config.putObject("sort").put("supported", false);
    config.putObject("etag").put("supported", true);
    config
        .putArray("authenticationSchemes")
        .addObject()
        .put("type", "oauthbearertoken")
        .put("name", "Bearer");
    return config;
  }

  static JsonNode schemas() {
    var list = MailHouse.JSON.createObjectNode();
    list.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:ListResponse");
    list.put("totalResults", 2);
    var resources = list.putArray("Resources");
    var user = schema(resources, "urn:ietf:params:scim:schemas:core:2.0:User", "User");
    text(user, "userName", false);
    text(user, "displayName", false);
    text(user, "title", false);
    text(user, "userType", false);
    var name = complex(user, "name", false);
    text(name, "givenName", false);
    text(name, "familyName", false);
    var emails = complex(user, "emails", true);
    text(emails, "value", false);
    text(emails, "type", false);
    var phones = complex(user, "phoneNumbers", true);
    text(phones, "value", false);
    text(phones, "type", false);
    var enterprise =
        schema(
            resources,
            "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User",
            "EnterpriseUser");
    text(enterprise, "employeeNumber", true);
    text(enterprise, "department", false);
    text(complex(enterprise, "manager", false), "value", true);
    return list;
  }

  private static ArrayNode schema(ArrayNode resources, String id, String name) {
    return resources.addObject().put("id", id).put("name", name).putArray("attributes");
  }

  private static void text(ArrayNode attributes, String name, boolean caseExact) {
    attributes
        .addObject()
        .put("name", name)
        .put("type", "string")
        .put("multiValued", false)
        .put("caseExact", caseExact)
        .put("mutability", "readWrite");
  }

  private static ArrayNode complex(ArrayNode attributes, String name, boolean multiValued) {
    ObjectNode attribute =
        attributes
            .addObject()
            .put("name", name)
            .put("type", "complex")
            .put("multiValued", multiValued);
    return attribute.put("mutability", "readWrite").putArray("subAttributes");
  }

  private MailSchemas() {}
}
