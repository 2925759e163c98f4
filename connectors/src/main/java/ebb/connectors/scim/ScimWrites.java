package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** How writes reach an application: each by itself, or several in one request. */
interface ScimWrites {
  /**
   * @param body null for none
   * @param etag of what is changed; null to change whatever is there
   */
  Answer send(String method, String path, JsonNode body, String etag) throws NoAnswer;

  static ScimWrites each(JsonHttp http) {
    return (method, path, body, etag) ->
        http.send(method, path, body, etag == null ? Map.of() : Map.of("If-Match", etag));
  }
}
