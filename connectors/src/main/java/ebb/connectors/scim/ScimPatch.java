package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import java.util.List;
import tools.jackson.databind.node.ObjectNode;

/** Sends PATCH requests (RFC 7644, 3.5.2). */
final class ScimPatch {
  private final ScimWrites writes;

  ScimPatch(ScimWrites writes) {
    this.writes = writes;
  }

  static ObjectNode operation(String op, String path) {
    return JsonHttp.JSON.createObjectNode().put("op", op).put("path", path);
  }

  /**
   * @param etag of what is changed; null to change whatever is there
   */
  Answer send(String path, String etag, ObjectNode... operations) throws NoAnswer {
    var body = JsonHttp.JSON.createObjectNode();
    body.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:PatchOp");
    var list = body.putArray("Operations");
    List.of(operations).forEach(list::add);
    return writes.send("PATCH", path, body, etag);
  }
}
