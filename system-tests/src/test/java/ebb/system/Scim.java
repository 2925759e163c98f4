package ebb.system;

import java.io.IOException;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** An HR system that sends people over SCIM, request by request. */
final class Scim {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  static final String PERSON = "urn:ebb:scim:schemas:extension:person:1.0:User";
  private static final String PATH = "/scim/v2";

  private final Rest rest;

  Scim(String url, String token) {
    this.rest = new Rest(url, token);
  }

  Rest.Answer get(String path) throws IOException, InterruptedException {
    return rest.get(PATH + path);
  }

  Rest.Answer post(String path, String body) throws IOException, InterruptedException {
    return send("POST", path, body);
  }

  Rest.Answer send(String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    return rest.send(method, PATH + path, "application/scim+json", body, headers);
  }

  Rest.Answer patch(String path, String... operations) throws IOException, InterruptedException {
    return send(
        "PATCH",
        path,
        """
        {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"], "Operations": [%s]}
        """
            .formatted(String.join(", ", operations)));
  }

  Rest.Answer bulk(String... operations) throws IOException, InterruptedException {
    return post(
        "/Bulk",
        """
        {"schemas": ["urn:ietf:params:scim:api:messages:2.0:BulkRequest"], "Operations": [%s]}
        """
            .formatted(String.join(", ", operations)));
  }

  /**
   * @param more further members of the object, each with a comma before it
   */
  static String user(String number, String given, String family, String more) {
    return """
    {"schemas": ["%s"], "externalId": "%s", "userName": "%s.%s", "name": {"givenName": "%3$s",
     "familyName": "%4$s"}, "userType": "employee"%5$s}
    """
        .formatted(USER, number, given, family, more);
  }

  static String group(String name, String... members) {
    return """
    {"schemas": ["%s"], "displayName": "%s", "members": [%s]}
    """
        .formatted(
            GROUP,
            name,
            java.util.Arrays.stream(members)
                .map("{\"value\": \"%s\"}"::formatted)
                .collect(Collectors.joining(", ")));
  }

  static String operation(String method, String path, String bulkId, String data) {
    return """
    {"method": "%s", "path": "%s"%s%s}
    """
        .formatted(
            method,
            path,
            bulkId == null ? "" : ", \"bulkId\": \"%s\"".formatted(bulkId),
            data == null ? "" : ", \"data\": " + data);
  }

  /** A name that is nobody else's. */
  static String name(int number) {
    return IntStream.iterate(number + 26 * 26, left -> left > 0, left -> left / 26)
        .mapToObj(left -> Character.toString('a' + left % 26))
        .collect(Collectors.joining());
  }
}
