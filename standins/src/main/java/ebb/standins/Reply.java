package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.ScimException;

/**
 * An answer of the house.
 *
 * @param etag null for none
 * @param body JSON, a page of HTML as text, or null for none
 */
record Reply(int status, String etag, Object body) {
  static Reply ok(JsonNode body) {
    return new Reply(200, null, body);
  }

  static Reply nothing() {
    return new Reply(204, null, null);
  }

  static Reply resource(int status, ObjectNode resource) {
    return new Reply(status, resource.path("meta").path("version").asText(null), resource);
  }

  static Reply error(int status, String detail) {
    return error(status, detail, null);
  }

  static Reply of(ScimException e) {
    return error(e.getScimError().getStatus(), e.getMessage(), e.getScimError().getScimType());
  }

  /** RFC 7644, 3.12. */
  static Reply error(int status, String detail, String scimType) {
    var body = MailHouse.JSON.createObjectNode();
    body.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:Error");
    body.put("status", Integer.toString(status));
    body.put("detail", detail);
    if (scimType != null) {
      body.put("scimType", scimType);
    }
    return new Reply(status, null, body);
  }

  boolean isSuccess() {
    return status < 300;
  }
}
