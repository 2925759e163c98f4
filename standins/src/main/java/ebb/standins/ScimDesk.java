package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/** Answers SCIM requests (RFC 7644). */
final class ScimDesk {
  private final Manners manners;
  private final MailAccounts accounts;
  private final BiConsumer<String, JsonNode> note;

  /**
   * @param note told of each write within a request that holds several
   */
  ScimDesk(Manners manners, MailAccounts accounts, BiConsumer<String, JsonNode> note) {
    this.note = note;
    this.manners = manners;
    this.accounts = accounts;
  }

  /**
   * @param path after "/scim/v2"
   * @param ifMatch null if it was not sent
   */
  Reply answer(
      String method, List<String> path, Map<String, String> query, JsonNode sent, String ifMatch)
      throws ScimException {
    var id = path.size() > 1 ? path.get(1) : null;
    return switch (path.isEmpty() ? "" : path.getFirst()) {
      case "ServiceProviderConfig" -> Reply.ok(MailSchemas.serviceProviderConfig(manners));
      case "Schemas" -> Reply.ok(MailSchemas.schemas(manners.showsGroups));
      case "ResourceTypes" -> Reply.ok(MailSchemas.resourceTypes());
      case "Users" -> resource(method, "User", id, query, sent, ifMatch);
      case "Groups" -> resource(method, "Group", id, query, sent, ifMatch);
      case "Bulk" -> bulk(sent);
      default -> Reply.error(404, "There is nothing at " + path);
    };
  }

  private Reply resource(
      String method,
      String type,
      String id,
      Map<String, String> query,
      JsonNode sent,
      String ifMatch)
      throws ScimException {
    return switch (method) {
      case "GET" -> id == null ? list(type, query) : read(type, id, query);
      case "POST" -> Reply.resource(201, accounts.create((ObjectNode) sent));
      case "PATCH" ->
          manners.patches
              ? Reply.resource(200, without(accounts.patch(type, id, sent, ifMatch), query))
              : Reply.error(501, "PATCH is not supported");
      case "PUT" -> Reply.resource(200, accounts.replace(type, id, (ObjectNode) sent, ifMatch));
      case "DELETE" -> {
        accounts.delete(id);
        yield Reply.nothing();
      }
      default -> Reply.error(405, method + " is not supported");
    };
  }

  private Reply read(String type, String id, Map<String, String> query) throws ScimException {
    return Reply.resource(200, without(accounts.get(type, id), query));
  }

  private Reply list(String type, Map<String, String> query) throws ScimException {
    int count = Integer.parseInt(query.getOrDefault("count", "" + manners.largestPage));
    if (manners.cursors) {
      if (!query.containsKey("cursor")) {
        throw new BadRequestException("Ask with a cursor", "invalidCursor");
      }
      var cursor = query.get("cursor");
      var from = cursor.isEmpty() ? 0 : Integer.parseInt(cursor.substring(1));
      var part = accounts.list(type, query.get("filter"), from, count);
      var answer = answer(part, query);
      var next = from + part.resources().size();
      if (next < part.total() && !part.resources().isEmpty()) {
        answer.put("nextCursor", "c" + next);
      }
      return Reply.ok(answer);
    }
    int from = Math.max(1, Integer.parseInt(query.getOrDefault("startIndex", "1"))) - 1;
    var part = accounts.list(type, query.get("filter"), from, count);
    return Reply.ok(answer(part, query).put("startIndex", from + 1));
  }

  private static ObjectNode answer(MailAccounts.Part part, Map<String, String> query) {
    var answer = MailHouse.JSON.createObjectNode();
    answer.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:ListResponse");
    answer.put("totalResults", part.total());
    answer.put("itemsPerPage", part.resources().size());
    var all = answer.putArray("Resources");
    part.resources().forEach(one -> all.add(without(one, query)));
    return answer;
  }

  private static ObjectNode without(ObjectNode resource, Map<String, String> query) {
    var excluded = query.getOrDefault("excludedAttributes", "");
    if (!excluded.isEmpty()) {
      resource.remove(List.of(excluded.split(",")));
    }
    return resource;
  }

  /** RFC 7644, 3.7. */
  private Reply bulk(JsonNode sent) throws ScimException {
    if (!manners.bulk) {
      return Reply.error(501, "Bulk is not supported");
    }
    var answer = MailHouse.JSON.createObjectNode();
    answer.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:BulkResponse");
    var operations = answer.putArray("Operations");
    for (var operation : sent.path("Operations")) {
      var path = List.of(operation.path("path").asText().substring(1).split("/"));
      Reply reply;
      try {
        reply =
            answer(
                operation.path("method").asText(),
                path,
                Map.of(),
                operation.path("data"),
                operation.path("version").asText(null));
      } catch (ScimException e) {
        reply = Reply.of(e);
      }
      var one = operations.addObject();
      one.put("method", operation.path("method").asText());
      one.put("bulkId", operation.path("bulkId").asText());
      one.put("status", Integer.toString(reply.status()));
      if (reply.etag() != null) {
        one.put("version", reply.etag());
      }
      if (reply.body() instanceof JsonNode body) {
        one.set("response", body);
      }
      if (reply.isSuccess()) {
        note.accept(
            operation.path("method").asText() + " /scim/v2" + operation.path("path").asText(),
            operation.path("data"));
      }
    }
    return Reply.ok(answer);
  }
}
